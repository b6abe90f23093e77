import { describe, expect, it } from 'vitest';
import { DrawLists } from './batch/draw-lists';
import { WORDS_PER_VERTEX, type FlatBlock } from './batch/flat-block';
import { FillBody } from './fill-body';
import { LineBody } from './line-body';
import { NearGeometry, type NearTile, type NearView } from './near-geometry';

/** A line of ten kilometres, one unit off the middle, in a tile far from the drawing's origin. */
function longTile(): NearTile {
  const origin = { x: 412_000_000, y: 7_208_000_000, z: 0 };
  const positions = Float32Array.from([-5e6, 1, 0, 5e6, 1, 0]);
  const styles = Uint16Array.of(0, 0);
  const orders = Float32Array.of(1, 1);
  const box = { minX: -5e6, minY: 1, maxX: 5e6, maxY: 1 };
  const piece = { style: 0, start: 0, count: 2, sizeUpTo: 1e7, coarse: [], ...box };
  const lines = { positions, styles, along: Float32Array.of(0, 1e7), lines: Uint32Array.of(0, 1), lineRuns: [piece] };
  const none = { positions: new Float32Array(0), styles: new Uint16Array(0) };
  const fills = { ...none, triangles: new Uint32Array(0), triangleRuns: [] };
  const body = LineBody.alone(lines, orders, origin);
  return { origin, body, fills: FillBody.alone(fills, new Float32Array(0), origin) };
}

describe('the parts near a view', () => {
  const looks: readonly unknown[] = ['as they are'];
  const at = (tile: NearTile, right: number, up = 0): NearView => ({
    middle: { x: tile.origin.x + right, y: tile.origin.y + up, z: 0 },
    reach: 100,
    isPart: false,
    looks,
    lookOf: () => 'hairline',
  });
  const cut = (near: NearGeometry, tile: NearTile, view: NearView): FlatBlock => {
    const lists = new DrawLists();
    near.list(lists, [tile], view);
    const [range] = lists.of('hairline');
    return range!.block;
  };

  it('are cut out about the middle, in single precision that loses nothing', () => {
    const tile = longTile();
    const near = new NearGeometry();
    const block = cut(near, tile, at(tile, 1234.5));
    expect(block.origin).toEqual({ x: tile.origin.x + 1234.5, y: tile.origin.y, z: 0 });
    const floats = new Float32Array(WORDS_PER_VERTEX * block.vertices);
    block.packVertices(0, floats.buffer);
    expect(block.vertices).toBe(2);
    for (const vertex of [0, 1]) {
      expect(Math.abs(floats[WORDS_PER_VERTEX * vertex]!)).toBeLessThanOrEqual(200);
      expect(floats[WORDS_PER_VERTEX * vertex + 1]).toBe(1);
    }
    expect(near.segments).toBe(1);
  });

  it('stay while the view is panned within what was cut out, and are cut out anew beyond it', () => {
    const tile = longTile();
    const near = new NearGeometry();
    const first = cut(near, tile, at(tile, 0));
    expect(cut(near, tile, at(tile, 60, -90))).toBe(first);
    expect(cut(near, tile, at(tile, 99.5))).toBe(first);
    let left = false;
    first.onDispose(() => (left = true));
    const second = cut(near, tile, at(tile, 101));
    expect(second).not.toBe(first);
    expect(left).toBe(true);
  });

  it('serve a part of the pane with those of the other parts', () => {
    const [tile, other] = [longTile(), longTile()];
    const near = new NearGeometry();
    const both = new DrawLists();
    near.list(both, [tile, other], at(tile, 0));
    const [range] = both.of('hairline');
    expect(cut(near, tile, { ...at(tile, 60), isPart: true })).toBe(range!.block);
    const third = longTile();
    const more = cut(near, third, { ...at(third, 60), isPart: true });
    expect(more.vertices).toBe(6);
    expect(cut(near, tile, { ...at(tile, 60), isPart: true })).toBe(more);
    expect(cut(near, tile, at(tile, 60)).vertices).toBe(2);
  });

  it('are cut out anew where styles look different or another form of the tile is there', () => {
    const tile = longTile();
    const near = new NearGeometry();
    const first = cut(near, tile, at(tile, 0));
    const second = cut(near, tile, { ...at(tile, 0), looks: ['wider'] });
    expect(second).not.toBe(first);
    const other = longTile();
    expect(cut(near, other, { ...at(other, 0), looks: ['wider'] })).not.toBe(second);
  });
});
