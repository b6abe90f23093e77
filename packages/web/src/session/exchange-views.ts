import { MOST_CLIPS } from '@gull-pane/core/clip/clip-volume';
import { bytesOfBase64 } from '@gull-pane/exchange/base64';
import { viewFormats, readViews } from '@gull-pane/exchange/view-formats';
import type { ExchangedDrawing, ExchangedView } from '@gull-pane/exchange/view';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { Parts } from '../actions/action';
import { saveFile } from '../basics/save-file';
import type { TakenView } from '../store/cards-store';

/** The picture of a view card, px. */
const CARD_PX = { width: 320, height: 200 } as const;
const MOST_PICTURE = 40_000;

/** A drawing as files of views tell it. */
function exchanged({ drawing }: Parts<'drawing'>): ExchangedDrawing {
  const { drawing: dto, solid, layers } = drawing.getState();
  return {
    name: dto.name,
    kind: dto.kind,
    unit: dto.unit,
    revision: dto.revision,
    objects: dto.counts.objects,
    ...(solid
      ? {
          objectNames: solid.names,
          ...(solid.ids ? { objectIds: solid.ids } : {}),
          objectsOfLayer: (name: string): number[] => {
            const id = layers.find((layer) => layer.name === name)?.id;
            return solid.layers.flatMap((layer, object) => (layer === id ? [object] : []));
          },
        }
      : {}),
  };
}

/** Writes all views of a drawing and hands the file to the browser. @returns what the format couldn't tell */
export async function writeViewsOut(target: Parts<'drawing' | 'cards'>, formatId: string): Promise<readonly string[]> {
  const cards = target.cards.getState().cards ?? [];
  return saveViews(target, formatId, 'views', (hasPictures) =>
    Promise.all(cards.map((card) => viewOf(card, hasPictures))),
  );
}

/**
 * Writes views of a drawing and hands the file to the browser.
 * @param what the views are of, for the file's name
 * @param viewsOf creates the views, with pictures if the format supports them
 * @returns what the format couldn't tell
 */
export async function saveViews(
  target: Parts<'drawing'>,
  formatId: string,
  what: string,
  viewsOf: (hasPictures: boolean) => Promise<readonly ExchangedView[]>,
): Promise<readonly string[]> {
  const format = viewFormats.find(({ id }) => id === formatId)!;
  const views = await viewsOf(format.hasPictures);
  const own = exchanged(target);
  const { bytes, losses } = format.write(views, own, {
    author: 'Gull Pane',
    date: new Date().toISOString(),
    newId: () => crypto.randomUUID(),
  });
  saveFile(`${own.name}, ${what}.${format.extension}`, new Blob([bytes], { type: format.mediaType }));
  return losses;
}

/**
 * Reads the views of a file, to be kept as cards.
 * @returns the views, and what couldn't be taken over
 * @throws ExchangeError in words for the user
 */
export async function readViewsIn(
  target: Parts<'pane' | 'drawing'>,
  file: Blob,
): Promise<{ readonly views: readonly TakenView[]; readonly losses: readonly string[] }> {
  const { camera, viewport } = target.pane.getState();
  const limits = { mostClips: MOST_CLIPS, depth: camera.unitsPerPx * viewport.heightPx };
  const { views, losses } = readViews(new Uint8Array(await file.arrayBuffer()), exchanged(target), limits);
  const taken = await Promise.all(
    views.map(async ({ picture, ...view }): Promise<TakenView> => ({
      ...view,
      picture: picture ? await cardPicture(picture) : '',
    })),
  );
  return { views: taken, losses };
}

async function viewOf(card: CardDto, hasPictures: boolean): Promise<ExchangedView> {
  const { name, group, camera, widthPx, heightPx, shows, comments, picture } = card;
  const png = hasPictures && picture !== '' ? await pngOf(picture).catch(() => null) : null;
  return {
    name,
    group,
    camera,
    widthPx,
    heightPx,
    shows,
    ...(comments ? { comments } : {}),
    ...(png ? { picture: png } : {}),
  };
}

async function pngOf(address: string): Promise<Uint8Array | null> {
  const own = address.startsWith('data:')
    ? new Blob([bytesOfBase64(address.slice(address.indexOf(',') + 1))])
    : await (await fetch(address)).blob();
  const paper = await paperWith(own, null);
  const png = await new Promise<Blob | null>((resolve) => paper.canvas.toBlob(resolve, 'image/png'));
  return png && new Uint8Array(await png.arrayBuffer());
}

/** A picture from a file, as cards have them; empty if it can't be read. */
export async function cardPicture(bytes: Uint8Array): Promise<string> {
  try {
    const { canvas } = await paperWith(new Blob([bytes as Uint8Array<ArrayBuffer>]), CARD_PX);
    const picture = canvas.toDataURL('image/webp', 0.75);
    return picture.length < MOST_PICTURE ? picture : '';
  } catch {
    return '';
  }
}

/** @param size the picture's middle in this shape; as it is with null */
async function paperWith(
  picture: Blob,
  size: { readonly width: number; readonly height: number } | null,
): Promise<CanvasRenderingContext2D> {
  const bitmap = await createImageBitmap(picture);
  const canvas = document.createElement('canvas');
  const { width, height } = size ?? bitmap;
  Object.assign(canvas, { width, height });
  const paper = canvas.getContext('2d')!;
  const scale = Math.max(width / bitmap.width, height / bitmap.height);
  const [w, h] = [bitmap.width * scale, bitmap.height * scale];
  paper.drawImage(bitmap, (width - w) / 2, (height - h) / 2, w, h);
  bitmap.close();
  return paper;
}
