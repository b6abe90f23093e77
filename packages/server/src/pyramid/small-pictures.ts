import type { Affine } from '@gull-pane/core/geometry/affine';
import type { TilesetPicture } from '@gull-pane/protocol/tileset';
import type { PictureStore } from './picture-store.ts';
import { openSource } from './write-pictures.ts';

/** A picture as small as the picture of a whole drawing needs it. */
export interface SmallPicture {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Red, green, blue, alpha of each px. */
  readonly rgba: Uint8Array;
  /** As `TilesetPicture` has it. */
  readonly place: Affine;
  readonly opacity: number;
}

/** More aren't put into the picture of a drawing. */
const MOST_PICTURES = 200;
const SIDE_PX = 480;

/** The pictures of a drawing, small. */
export async function smallPictures(
  store: PictureStore,
  pictures: readonly TilesetPicture[],
): Promise<readonly SmallPicture[]> {
  const small = new Map<number, Pick<SmallPicture, 'widthPx' | 'heightPx' | 'rgba'>>();
  const all: SmallPicture[] = [];
  for (const { source, place, opacity } of pictures.slice(0, MOST_PICTURES)) {
    let own = small.get(source);
    if (!own) {
      // by now each is a file
      const image = await openSource({ ...store.sources[source]!, raw: null });
      const { data, info } = await image
        .resize({ width: SIDE_PX, height: SIDE_PX, fit: 'inside', withoutEnlargement: true })
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      own = { widthPx: info.width, heightPx: info.height, rgba: new Uint8Array(data) };
      small.set(source, own);
    }
    const [a, b, c, d, e, f] = place;
    all.push({ ...own, place: { a, b, c, d, e, f }, opacity });
  }
  return all;
}
