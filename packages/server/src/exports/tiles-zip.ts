import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { Zip, ZipPassThrough, strToU8 } from 'fflate';

/**
 * The display pyramid as a folder that any client of 3D Tiles 1.1 opens from a plain file server: `tileset.json` with the
 * tiles and their packs of shapes beside it, unpacked.
 * @param folder of the tiles
 */
export async function* tilesZip(folder: string, revision: number): AsyncGenerator<Uint8Array> {
  const ready: Uint8Array[] = [];
  const zip = new Zip((error, bytes) => {
    if (error) throw error;
    ready.push(bytes);
  });
  const add = (name: string, bytes: Uint8Array): void => {
    const file = new ZipPassThrough(name);
    zip.add(file);
    file.push(bytes, true);
  };
  const tileset = await readFile(join(folder, 'tileset.json'), 'utf8');
  add('tileset.json', strToU8(tileset.replaceAll(`"r${revision}/`, '"')));
  const names = (await readdir(folder)).filter((name) =>
    /^(\d+(-(coarse|own)\d)?\.glb|shapes\d+\.bin)\.gz$/.test(name),
  );
  for (const name of names) {
    add(name.slice(0, -3), gunzipSync(await readFile(join(folder, name))));
    yield* ready.splice(0);
  }
  zip.end();
  yield* ready.splice(0);
}
