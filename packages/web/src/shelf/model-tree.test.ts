import { describe, expect, it } from 'vitest';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import { branchesOf, objectsBelow } from './model-tree';

const table: SolidTable = {
  tree: { names: ['Hall', 'Pumps', 'Pump 1', 'Pipes', 'Empty'], parents: [-1, 0, 1, 0, 0] },
  names: ['KS-PU-0101', 'Plate', 'KS-PI-0007', 'Loose'],
  nodes: [2, 2, 3, -1],
  layers: [0, 0, 1, 1],
  triangles: [1, 1, 1, 1],
  boxes: [],
  materials: [],
  cameras: [],
};

describe('the tree of a model', () => {
  it('has its objects as leaves, counted, and nothing empty', () => {
    const [hall, loose] = branchesOf(table);
    expect([hall!.title, hall!.count, loose!.title]).toEqual(['Hall', 3, 'Loose']);
    expect(hall!.children.map(({ title, count }) => [title, count])).toEqual([
      ['Pumps', 2],
      ['Pipes', 1],
    ]);
    expect(objectsBelow(hall!)).toEqual([0, 1, 2]);
  });

  it('is searched by names of objects and of branches, in any case', () => {
    const titles = (wanted: string): string[] => {
      const names = (list: ReturnType<typeof branchesOf>): string[] =>
        list.flatMap(({ title, isObject, children }) => (isObject ? [title] : names(children)));
      return names(branchesOf(table, wanted));
    };
    expect(titles('pi-0007')).toEqual(['KS-PI-0007']);
    expect(titles('PUMP 1')).toEqual(['KS-PU-0101', 'Plate']);
    expect(titles('lo')).toEqual(['Loose']);
    expect(titles('nothing')).toEqual([]);
  });
});
