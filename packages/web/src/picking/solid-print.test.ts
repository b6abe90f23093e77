import { expect, it } from 'vitest';
import { planCamera } from '@gull-pane/core/camera/camera';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import { printOfSolid } from './solid-print';

/** Two pumps, 10 m apart. */
const table = (change: Partial<SolidTable> = {}): SolidTable => ({
  tree: { names: [], parents: [] },
  nodes: [-1, -1],
  materials: [],
  cameras: [],
  names: ['KS-PU-201', 'KS-PU-202'],
  layers: [0, 0],
  triangles: [120, 120],
  boxes: [0, 0, 0, 2000, 1000, 1500, 12_000, 0, 0, 14_000, 1000, 1500],
  ...change,
});
const viewport = { widthPx: 400, heightPx: 300 };
/** Sees the first pump alone. */
const camera = planCamera({ x: 1000, y: 500, z: 0 }, 10);
const print = (own: SolidTable, layers = ['Pumps']): string => printOfSolid(own, layers, camera, viewport);

it('tells what is seen of a model by its objects: their places, names, layers and shapes', () => {
  const known = print(table());
  expect(print(table())).toBe(known);
  expect(print(table({ names: ['KS-PU-211', 'KS-PU-202'] }))).not.toBe(known);
  expect(print(table({ triangles: [121, 120] }))).not.toBe(known);
  expect(print(table(), ['Old pumps'])).not.toBe(known);
  expect(print(table({ boxes: [0, 0, 0, 2000, 1000, 1501, 12_000, 0, 0, 14_000, 1000, 1500] }))).not.toBe(known);
});

it('says nothing of what lies beside the frame, nor of the order of objects', () => {
  const known = print(table());
  expect(print(table({ names: ['KS-PU-201', 'KS-PU-999'] }))).toBe(known);
  const turned = table({
    names: ['KS-PU-202', 'KS-PU-201'],
    boxes: [12_000, 0, 0, 14_000, 1000, 1500, 0, 0, 0, 2000, 1000, 1500],
  });
  expect(print(turned)).toBe(known);
});
