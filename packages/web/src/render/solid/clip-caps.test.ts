import { describe, expect, it } from 'vitest';
import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { cutSurface, type CutSurface, type CutTile } from '@gull-pane/core/clip/cut-surface';
import { encodeSolidTile } from '@gull-pane/core/solid/encode-solid-tile';
import { indexTriangles } from '@gull-pane/core/solid/sight-hit';
import { SolidItems } from '@gull-pane/core/solid/solid-items';
import { decodeSolidTile } from '@gull-pane/core/solid/solid-tile';
import { cube } from '@gull-pane/core/solid/test-shapes';
import type { CutFace } from './cap-calls';
import { ClipCaps } from './clip-caps';
import type { SolidMaterials } from './solid-materials';

const origin = { x: 0, y: 0, z: 0 };
const volume = (x: number): ClipVolume => ({
  kind: 'box',
  id: 1,
  name: '',
  isOn: true,
  keeps: 'inside',
  centre: { x, y: 0, z: 0 },
  orientation: { x: 0, y: 0, z: 0, w: 1 },
  half: { x: 400, y: 5000, z: 5000 },
});

function tile(): CutTile {
  const items = new SolidItems();
  const { positions, triangles } = cube(1000, [-500, -500, -500]);
  items.add({ object: 7, material: 0, positions, triangles });
  const material = { name: '', colour: { r: 0, g: 0, b: 0, a: 255 }, metalness: 0, roughness: 1 };
  const content = decodeSolidTile(encodeSolidTile(items.tilePieces([0]), origin, [material]).bytes);
  return { content: { ...content, sights: indexTriangles(content) }, origin };
}

/** Caps with a worker whose answers the test gives. */
function make() {
  const asked: { readonly faces: readonly CutFace[]; answer(): void; fail(): void }[] = [];
  const line = {
    ask: (_about: string, faces: readonly CutFace[]) =>
      new Promise<readonly CutSurface[]>((resolve, reject) => {
        asked.push({
          faces,
          answer: () => resolve(faces.map(({ face, cuts }) => cutSurface(face, cuts))),
          fail: () => reject(new Error('the worker has stopped')),
        });
      }),
  };
  let told = 0;
  const caps = new ClipCaps({} as SolidMaterials, line as never, () => told++);
  const shown = (): number => caps.placed(origin, 'surfaces').length;
  return { caps, asked, shown, told: () => told };
}
const soon = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

describe('cut surfaces', () => {
  it('are there when the worker has closed them; until then they are being waited for', async () => {
    const { caps, asked, shown, told } = make();
    const clips = [volume(0)];
    caps.order(clips, [tile()]);
    expect([caps.isBusy, shown(), caps.areOf(clips)]).toEqual([true, 0, true]);
    caps.order(clips, [tile()]);
    expect(asked).toHaveLength(1);
    asked[0]!.answer();
    await soon();
    // two sides of the box go through the cube
    expect([caps.isBusy, shown(), told(), caps.changes]).toEqual([false, 2, 1, 1]);
  });

  it('of a volume that moves on show until the next are there; only the last of many is made', async () => {
    const { caps, asked, shown, told } = make();
    caps.order([volume(0)], [tile()]);
    asked[0]!.answer();
    await soon();
    for (const x of [100, 200, 700]) caps.order([volume(x)], [tile()]);
    expect([caps.isBusy, shown()]).toEqual([true, 2]);
    asked[1]!.answer();
    await soon();
    expect([asked.length, caps.isBusy, shown(), told()]).toEqual([3, true, 2, 1]);
    asked[2]!.answer();
    await soon();
    // at 700 only one side goes through the cube
    expect([asked.length, caps.isBusy, shown(), told()]).toEqual([3, false, 1, 2]);
  });

  it('are gone at once with the last volume, whatever is still being made', async () => {
    const { caps, asked, shown, told } = make();
    caps.order([volume(0)], [tile()]);
    caps.order([], [tile()]);
    asked[0]!.answer();
    await soon();
    expect([caps.isBusy, shown(), told()]).toEqual([false, 0, 0]);
  });

  it('that can’t be closed are left out, and nobody waits for them', async () => {
    const { caps, asked, shown, told } = make();
    caps.order([volume(0)], [tile()]);
    asked[0]!.fail();
    await soon();
    expect([caps.isBusy, shown(), told()]).toEqual([false, 0, 1]);
  });
});
