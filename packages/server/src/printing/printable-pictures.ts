import sharp from 'sharp';
import { exportedPictures } from '../exports/exported-pictures.ts';

/** Raster pictures of a plan in formats that paper formats know: PNG and JPEG. */
export class PrintablePictures {
  private constructor(private readonly hrefs: ReadonlyMap<number, () => string>) {}

  /** @param folder of the revision */
  static async of(folder: string): Promise<PrintablePictures> {
    const hrefs = new Map<number, () => string>();
    for (const [object, { href }] of exportedPictures(folder)) {
      const [, type = '', bytes = ''] = /^data:([^;,]*);base64,(.*)$/s.exec(href()) ?? [];
      if (type === 'image/png' || type === 'image/jpeg') hrefs.set(object, href);
      else {
        const png = await sharp(Buffer.from(bytes, 'base64'), { limitInputPixels: false }).png().toBuffer();
        hrefs.set(object, () => `data:image/png;base64,${png.toString('base64')}`);
      }
    }
    return new PrintablePictures(hrefs);
  }

  href(object: number): string {
    return this.hrefs.get(object)?.() ?? '';
  }

  *all(): Generator<string> {
    for (const href of this.hrefs.values()) yield href();
  }
}
