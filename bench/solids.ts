/** Models: coming in against a package that merely reads the file, a line of sight against trying every triangle. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { WebIO } from '@gltf-transform/core';
import { seededRandom } from '@gull-pane/core/geometry/random';
import { placeItems } from '@gull-pane/core/pyramid/place';
import { hitTile, indexTriangles, slabTest } from '@gull-pane/core/solid/sight-hit';
import { encodeSolidTile } from '@gull-pane/core/solid/encode-solid-tile';
import { decodeSolidTile } from '@gull-pane/core/solid/solid-tile';
import { solidTileOrigin } from '@gull-pane/core/pyramid/origin';
import { pumpHallModel } from '@gull-pane/demo/pump-hall';
import { SolidCollector } from '../packages/server/src/pyramid/collect-solid.ts';
import { ObjectWriter } from '../packages/server/src/pyramid/object-writer.ts';
import { readGltf } from '../packages/importers/src/gltf/read-gltf.ts';
import { importBuilt } from './built-import.ts';
import { ratio, type Figure } from './statistics.ts';

const LOOKS = 200;
/** Copies of the hall side by side: five millions of triangles. */
const COPIES = 10;
const TILE_WEIGHT = 8000;

const timed = async (run: () => unknown): Promise<number> => {
  const began = performance.now();
  await run();
  return performance.now() - began;
};

/** @param samples how often the import is measured */
export async function measureSolids(samples: number, keep: (figure: Figure) => void): Promise<void> {
  const bytes = pumpHallModel();
  const folder = mkdtempSync(join(tmpdir(), 'gull-pane-solids-'));
  try {
    const source = join(folder, 'hall.glb');
    writeFileSync(source, bytes);
    const ours: number[] = [];
    const peer: number[] = [];
    for (let i = 0; i < samples; i++) {
      ours.push(1000 * (await importBuilt(source)).seconds);
      peer.push(await timed(() => new WebIO().readBinary(bytes)));
    }
    keep(ratio('solid-import', 6, '@gltf-transform/core reading the file, instances not spread', { ours, peer }));
    await measureSights(bytes, folder, keep);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function measureSights(bytes: Uint8Array, folder: string, keep: (figure: Figure) => void): Promise<void> {
  const collector = new SolidCollector(new ObjectWriter(folder));
  const none = (): Promise<unknown> => Promise.resolve(null);
  await readGltf(
    bytes,
    { object: (object) => collector.object(object), part: (part) => collector.part(part) },
    { maxObjects: 5_000_000, draco: none, meshopt: none },
  );
  const { items } = collector;
  const tiles: { tile: ReturnType<typeof decodeSolidTile>; index: ReturnType<typeof indexTriangles>; box: number[] }[] =
    [];
  const visit = (placed: ReturnType<typeof placeItems>): void => {
    const origin = solidTileOrigin(placed.box);
    const tile = decodeSolidTile(encodeSolidTile(items.tilePieces(placed.items), origin, []).bytes);
    for (let i = 0; i < tile.positions.length; i += 3) {
      tile.positions[i]! += origin.x - items.boxes.at(0);
      tile.positions[i + 1]! += origin.y - items.boxes.at(1);
      tile.positions[i + 2]! += origin.z - items.boxes.at(2);
    }
    const box = placed.box.map((value, k) => value - items.boxes.at(k % 3));
    tiles.push({ tile, index: indexTriangles(tile), box });
    placed.children.forEach(visit);
  };
  visit(placeItems(items, { tileWeight: TILE_WEIGHT, random: seededRandom(1) }));
  const [minX, minY, , maxX, maxY] = tiles[0]!.box as [number, number, number, number, number, number];
  const along = { x: 0.35, y: 0.5, z: -Math.sqrt(1 - 0.35 ** 2 - 0.5 ** 2) };
  const everything = (): boolean => true;
  const random = seededRandom(7);
  const ours: number[] = [];
  const peer: number[] = [];
  for (let look = 0; look < LOOKS; look++) {
    // the hall stands ten times side by side; a line of sight goes through one of the copies
    const copy = Math.floor(random() * COPIES);
    const pitch = 1.2 * (maxX - minX);
    const world = { x: minX + random() * (maxX - minX) + copy * pitch, y: minY + random() * (maxY - minY), z: 4000 };
    const nearestOf = (prunes: boolean): number => {
      let nearest = Infinity;
      for (let at = 0; at < COPIES; at++) {
        const from = { x: world.x - at * pitch, y: world.y, z: world.z };
        const reaches = slabTest({ from, along }, -Infinity);
        for (const { tile, index, box } of tiles) {
          if (prunes && !reaches(box, 0, nearest)) continue;
          const known = prunes ? index : { clusters: wholeOf(index.clusters), groups: wholeOf(index.groups) };
          nearest = hitTile(tile, known, { from, along }, nearest, everything, -Infinity)?.distance ?? nearest;
        }
      }
      return nearest;
    };
    ours.push(await timed(() => nearestOf(true)));
    if (look % 40 === 0) peer.push(await timed(() => nearestOf(false)));
  }
  keep(ratio('solid-pick', 0.002, 'testing every triangle', { ours, peer }));
}

/** Boxes that rule nothing out. */
const whole = new Map<Float32Array, Float32Array<ArrayBuffer>>();
function wholeOf(boxes: Float32Array): Float32Array<ArrayBuffer> {
  let open = whole.get(boxes);
  if (!open) {
    open = Float32Array.from(boxes, (_, i) => (i % 6 < 3 ? -3e38 : 3e38));
    whole.set(boxes, open);
  }
  return open;
}
