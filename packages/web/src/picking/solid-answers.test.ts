import { expect, it } from 'vitest';
import { planCamera } from '@gull-pane/core/camera/camera';
import type { Surface } from '@gull-pane/core/pick/surface';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import { SolidAnswers } from './solid-answers';

/** Objects side by side, a unit cube each, at x = 10, 20, 30 … */
const COUNT = 40;
const table = {
  names: Array.from({ length: COUNT }, (_, object) => `KS-VA-${object}`),
  layers: Array.from({ length: COUNT }, () => 0),
  triangles: Array.from({ length: COUNT }, () => 12),
  boxes: Array.from({ length: COUNT }, (_, object) => [10 * object, 0, 0, 10 * object + 1, 1, 1]).flat(),
} as unknown as SolidTable;

function answersWith(loaded: ReadonlySet<number>, exact: (object: number) => Promise<readonly number[] | null>) {
  const surface = {
    loadedOf: (objects: ReadonlySet<number>) => new Set([...objects].filter((object) => loaded.has(object))),
    cornersOf: (objects: ReadonlySet<number>) => [...objects].flatMap((object) => [10 * object + 0.5, 0.5, 0.5]),
  } as unknown as Surface;
  return new SolidAnswers(table, {
    view: () => ({ camera: planCamera({ x: 0, y: 0, z: 0 }, 1), viewport: { widthPx: 100, heightPx: 100 } }),
    surface: () => surface,
    shown: () => ({ hiddenLayers: new Set(), mask: null, clips: [] }),
    exact,
  });
}

it('a frame goes by exact shapes: loaded ones, and those of others as the server tells them', async () => {
  const asked: number[] = [];
  const answers = answersWith(new Set([1]), (object) => {
    asked.push(object);
    return Promise.resolve([10 * object + 0.25, 0.25, 0.25]);
  });
  const points = await answers.ask('support', { entries: Uint32Array.of(1, 2) });
  expect(asked).toEqual([2]);
  expect([...points]).toEqual([10.5, 0.5, 0.5, 20.25, 0.25, 0.25]);
});

it('it goes by boxes where exact shapes can’t be had, or of too many objects to fetch', async () => {
  const failing = answersWith(new Set(), () => Promise.resolve(null));
  expect(await failing.ask('support', { entries: Uint32Array.of(3) })).toHaveLength(24);
  let asked = 0;
  const many = answersWith(new Set(), () => {
    asked++;
    return Promise.resolve([0, 0, 0]);
  });
  const points = await many.ask('support', { entries: Uint32Array.from({ length: COUNT }, (_, object) => object) });
  expect(points).toHaveLength(24 * COUNT);
  expect(asked).toBe(0);
});
