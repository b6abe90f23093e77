import { describe, expect, it } from 'vitest';
import { DrawLists } from './draw-lists';
import { FlatBlock, MOST_ASIDE, WORDS_PER_VERTEX, type VertexColumns } from './flat-block';

const columns = (count: number, more: Partial<VertexColumns> = {}): VertexColumns => ({
  positions: Float32Array.from({ length: 3 * count }, (_, i) => i / 2),
  numbersPerPosition: 3,
  styles: Uint16Array.from({ length: count }, (_, i) => 60_000 + i),
  orders: Float32Array.from({ length: count }, (_, i) => 2 * i + 1.5),
  along: null,
  offsets: null,
  ...more,
});
const origin = { x: 1, y: 2, z: 0 };

describe('a block', () => {
  it('packs place, order in halves, style with slot, length and way aside', () => {
    const offsets = Float32Array.from([0, 0, MOST_ASIDE, -MOST_ASIDE / 2]);
    const block = new FlatBlock(origin, [
      { columns: columns(2, { along: Float32Array.from([0, 7.25]), offsets }), indices: [Uint32Array.of(0, 1)] },
    ]);
    // what was packed before leaves nothing behind
    const words = new Uint32Array(2 * WORDS_PER_VERTEX).fill(0xffffffff);
    block.packVertices(5, words.buffer);
    const floats = new Float32Array(words.buffer);
    expect([...floats.subarray(6, 8)]).toEqual([1.5, 2]);
    expect(words[8]).toBe(2 * 3.5);
    expect(words[9]! >>> 16).toBe(60_001);
    expect(words[9]! & 0xffff).toBe(5);
    expect(floats[10]).toBe(7.25);
    const aside = new Int16Array(words.buffer).subarray(22, 24);
    expect((aside[0]! / 32767) * MOST_ASIDE).toBeCloseTo(MOST_ASIDE, 3);
    expect((aside[1]! / 32767) * MOST_ASIDE).toBeCloseTo(-MOST_ASIDE / 2, 3);
  });

  it('copies indices across its lists, each counted from the vertices of its part', () => {
    const block = new FlatBlock(origin, [
      { columns: columns(4), indices: [Uint32Array.of(0, 1, 2, 3), Uint32Array.of(2, 1, 0)] },
      { columns: columns(2), indices: [Uint32Array.of(0, 1)] },
    ]);
    expect(block.vertices).toBe(6);
    expect(block.indices).toBe(9);
    expect(block.starts).toEqual([0, 4, 7]);
    const into = new Uint32Array(10);
    block.copyIndices(0, 9, 100, into, 1);
    expect([...into]).toEqual([0, 100, 101, 102, 103, 102, 101, 100, 104, 105]);
    into.fill(0);
    block.copyIndices(3, 5, 10, into, 0);
    expect([...into.subarray(0, 6)]).toEqual([13, 12, 11, 10, 14, 0]);
  });

  it('notifies its listeners once when it is disposed, but not those that were removed', () => {
    const block = new FlatBlock(origin, []);
    const told: string[] = [];
    const [one, other] = [() => void told.push('one'), () => void told.push('other')];
    block.onDispose(one);
    block.onDispose(other);
    block.forget(one);
    block.dispose();
    block.dispose();
    expect(told).toEqual(['other']);
  });
});

describe('what is drawn together', () => {
  it('joins what goes on in the same block and keeps apart what does not', () => {
    const [a, b] = [new FlatBlock(origin, []), new FlatBlock(origin, [])];
    const lists = new DrawLists();
    lists.add('hairline', a, 0, 10);
    lists.add('hairline', a, 10, 4);
    lists.add('hairline', a, 20, 2);
    lists.add('hairline', b, 22, 2);
    lists.add('hairline', b, 24, 0);
    lists.add('fill', b, 24, 3);
    expect(lists.of('hairline')).toEqual([
      { block: a, start: 0, count: 14 },
      { block: a, start: 20, count: 2 },
      { block: b, start: 22, count: 2 },
    ]);
    expect(lists.of('fill')).toEqual([{ block: b, start: 24, count: 3 }]);
  });
});
