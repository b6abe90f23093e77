import { describe, expect, it } from 'vitest';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { SolidTileContent } from '../../tiles/solid-tile-content';
import { cornersOf, loadedOf } from './exact-corners';
import { ShownLevels } from './shown-levels';

const box = { centre: { x: 0, y: 0, z: 0 }, halfSize: { x: 1, y: 1, z: 1 }, largest: 1, weight: 1 };
/** A coarse form, the group that it stands for, an exact tile, and another coarse form with its own. */
const levels = new ShownLevels([
  { ...box, coarseness: 4, children: [1] },
  { ...box, isEmpty: true, children: [2, 3] },
  { ...box, children: [] },
  { ...box, coarseness: 1, children: [4] },
  { ...box, children: [] },
]);

describe('coarse forms of what a pane shows', () => {
  it('come first, the coarsest before the others', () => {
    expect(levels.coarseFormsAbove([2, 4])).toEqual([0, 3]);
    expect(levels.coarseFormsAbove([0])).toEqual([]);
  });

  it('are met by its lines of sight until what it shows is there', () => {
    levels.choose('1', [2, 3]);
    expect([...levels.shownIn('1', new Set([0]))]).toEqual([0]);
    expect([...levels.shownIn('1', new Set([0, 2, 3]))]).toEqual([2, 3]);
    // what is loaded exactly is met exactly, whatever the pane shows
    expect([...levels.shownIn('2', new Set([0, 3, 4]))]).toEqual([4]);
    levels.leave('1');
    expect([...levels.shownIn('1', new Set([0]))]).toEqual([]);
  });
});

describe('corners of objects', () => {
  const triangleOf = (object: number, x: number) => ({
    origin: { x, y: 0, z: 0 },
    content: {
      runs: Uint32Array.of(object, 0, 3, 3, 0, 0),
      positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0),
      edgePositions: new Float32Array(),
      pointPositions: new Float32Array(),
    } as unknown as SolidTileContent,
  });
  const table = { triangles: [1, 2], boxes: [5, 0, 0, 6, 1, 0, 7, 0, 0, 9, 1, 2] } as unknown as SolidTable;

  it('are exact where all of an object is loaded, else those of its box', () => {
    const bodies = [triangleOf(0, 5), triangleOf(1, 7)];
    expect([...loadedOf(bodies, table, new Set([0, 1]))]).toEqual([0]);
    expect(cornersOf(bodies, table, new Set([0]))).toEqual([5, 0, 0, 6, 0, 0, 5, 1, 0]);
    const ofBox = cornersOf(bodies, table, new Set([1]));
    expect(ofBox).toHaveLength(24);
    expect([0, 1, 2].map((axis) => Math.max(...ofBox.filter((_, i) => i % 3 === axis)))).toEqual([9, 1, 2]);
    const both = [...bodies, triangleOf(1, 8)];
    expect(cornersOf(both, table, new Set([1]))).toEqual([7, 0, 0, 8, 0, 0, 7, 1, 0, 8, 0, 0, 9, 0, 0, 8, 1, 0]);
  });
});
