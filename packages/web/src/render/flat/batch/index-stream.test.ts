import { describe, expect, it } from 'vitest';
import { DrawLists } from './draw-lists';
import { FlatBlock } from './flat-block';
import { IndexStream } from './index-stream';

/** A graphics processor that keeps what it is sent. */
function processor(): { readonly gl: WebGL2RenderingContext; readonly sent: number[][] } {
  const sent: number[][] = [];
  const gl = {
    ELEMENT_ARRAY_BUFFER: 1,
    STREAM_DRAW: 2,
    createBuffer: () => ({}),
    bindBuffer: () => undefined,
    bufferData: () => undefined,
    bufferSubData: (_target: number, _offset: number, numbers: Uint32Array, from: number, count: number) =>
      sent.push([...numbers.subarray(from, from + count)]),
  };
  return { gl: gl as unknown as WebGL2RenderingContext, sent };
}

const blockOf = (vertices: number, indices: readonly number[]): FlatBlock =>
  new FlatBlock({ x: 0, y: 0, z: 0 }, [
    {
      columns: {
        positions: new Float32Array(3 * vertices),
        numbersPerPosition: 3,
        styles: new Uint16Array(vertices),
        orders: new Float32Array(vertices),
        along: null,
        offsets: null,
      },
      indices: [Uint32Array.from(indices)],
    },
  ]);

describe('the indices of a picture', () => {
  const [a, b] = [blockOf(4, [0, 1, 1, 2, 2, 3]), blockOf(3, [0, 1, 2])];
  const firstVertexOf = (block: FlatBlock): number => (block === a ? 100 : 200);
  const lists = (count: number): DrawLists => {
    const own = new DrawLists();
    own.add('hairline', a, 2, count);
    own.add('fill', b, 0, 3);
    return own;
  };

  it('are gathered kind by kind, counted from where the vertices of their blocks are', () => {
    const { gl, sent } = processor();
    const stretches = new IndexStream(gl).load(lists(4), firstVertexOf);
    expect(sent).toEqual([[200, 201, 202, 101, 102, 102, 103]]);
    expect(stretches).toEqual([
      { kind: 'fill', start: 0, count: 3 },
      { kind: 'hairline', start: 3, count: 4 },
    ]);
  });

  it('are sent once for what is drawn again, and anew where anything differs', () => {
    const { gl, sent } = processor();
    const stream = new IndexStream(gl);
    const first = stream.load(lists(4), firstVertexOf);
    expect(stream.load(lists(4), firstVertexOf)).toEqual(first);
    expect(sent).toHaveLength(1);
    stream.load(lists(2), firstVertexOf);
    expect(sent).toHaveLength(2);
    // a block that came back lies elsewhere
    stream.load(lists(2), (block) => firstVertexOf(block) + 1);
    expect(sent).toHaveLength(3);
  });

  it('of nothing are none', () => {
    const { gl, sent } = processor();
    expect(new IndexStream(gl).load(new DrawLists(), firstVertexOf)).toEqual([]);
    expect(sent).toEqual([]);
  });
});
