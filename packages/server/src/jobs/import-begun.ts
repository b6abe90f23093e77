import { readFile, stat } from 'node:fs/promises';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { PlacedTile } from '@gull-pane/core/pyramid/place';
import { MOST_BEGUN_BYTES, readBegun, type BegunDrawing } from '@gull-pane/importers/begun/read-begun';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TextColumns } from '@gull-pane/protocol/texts';
import { Collector } from '../pyramid/collect.ts';
import { PictureStore } from '../pyramid/picture-store.ts';
import { SolidCollector } from '../pyramid/collect-solid.ts';
import { ObjectWriter } from '../pyramid/object-writer.ts';
import { drawPicture } from '../pyramid/picture.ts';
import { indexSourceOf, writeObjectIndex } from '../pyramid/write-object-index.ts';
import { writeSolidTileset } from '../pyramid/write-solid-tileset.ts';
import { writeTileset } from '../pyramid/write-tileset.ts';
import type { ImportOrder, ImportResult } from './import-messages.ts';

/** An empty drawing has a place to begin at: so many units, or grid lines, to each side. */
const EMPTY_HALF = 50;

/** @returns null if the file is no drawing that was begun here */
export async function begunInFile(path: string): Promise<BegunDrawing | null> {
  if ((await stat(path)).size > MOST_BEGUN_BYTES) return null;
  return readBegun(await readFile(path, 'utf8'));
}

/** Builds what is served of a drawing without anything in it. */
export async function importBegun(
  { outFolder, tileAddressPrefix }: ImportOrder,
  begun: BegunDrawing,
): Promise<ImportResult> {
  const { kind, unit, tolerance, gridStep } = begun;
  const tiles = join(outFolder, 'tiles');
  mkdirSync(tiles, { recursive: true });
  const half = EMPTY_HALF * (gridStep || 1);
  const objects = new ObjectWriter(outFolder);
  const flat = new Collector(objects, new PictureStore(outFolder));
  const empty = (box: number[]): PlacedTile => ({
    items: new Uint32Array(0),
    box,
    geometricError: 0.01,
    children: [],
  });
  const stored = objects.finish([]);
  if (kind === 'flat') {
    await writeTileset(empty([-half, -half, half, half]), flat.items, {
      styles: [],
      folder: tiles,
      addressPrefix: tileAddressPrefix,
    });
    await writeObjectIndex(indexSourceOf(flat, stored, []), outFolder);
  } else {
    const { items } = new SolidCollector(objects);
    const box = [-half, -half, -half, half, half, half];
    const files = await writeSolidTileset(empty(box), items, [], tiles, tileAddressPrefix);
    await files.finish();
    const keep = (name: string, content: SolidTable | TextColumns): void =>
      writeFileSync(join(tiles, `${name}.gz`), gzipSync(JSON.stringify(content)));
    keep('solid.json', {
      tree: { names: [], parents: [] },
      names: [],
      nodes: [],
      layers: [],
      triangles: [],
      boxes: [],
      materials: [],
      cameras: [],
    });
    const none: TextColumns = {
      contents: [],
      objects: [],
      layers: [],
      x: [],
      y: [],
      sizes: [],
      anglesRad: [],
      widths: [],
      anchors: [],
    };
    keep('texts.json', none);
  }
  writeFileSync(join(outFolder, 'styles.json'), '[]');
  writeFileSync(join(outFolder, 'picture.png'), drawPicture(flat.items, [], [0, 0, 1, 1]));
  return {
    kind,
    unit,
    begun: { tolerance, gridStep },
    counts: { objects: 0, segments: 0, triangles: 0, texts: 0, layers: 0 },
    extents: null,
    layers: [],
    texts: [],
    warnings: [],
    sheets: [],
  };
}
