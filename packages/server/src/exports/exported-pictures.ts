import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ExportedPicture } from '@gull-pane/exporters/exported';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import { PICTURES_FOLDER, mediaTypeOf } from '../pyramid/picture-store.ts';

/** The raster pictures of a plan by their objects. @param folder of the revision */
export function exportedPictures(folder: string): ReadonlyMap<number, ExportedPicture> {
  const { extras } = JSON.parse(readFileSync(join(folder, 'tiles', 'tileset.json'), 'utf8')) as TilesetJson;
  return new Map(
    (extras.pictures ?? []).map(({ object, source, place: [a, b, c, d, e, f], clip = null, opacity }) => [
      object,
      {
        place: { a, b, c, d, e, f },
        clip,
        opacity,
        href: () => {
          const bytes = readFileSync(join(folder, PICTURES_FOLDER, `${source}.source`));
          return `data:${mediaTypeOf(bytes)};base64,${bytes.toString('base64')}`;
        },
      },
    ]),
  );
}
