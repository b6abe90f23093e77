import { flatKinds, type BlockRange, type DrawLists, type FlatKind } from './draw-lists';
import type { FlatBlock } from './flat-block';

/** Indices of one kind, as they lie in the buffer. */
export interface KindStretch {
  readonly kind: FlatKind;
  readonly start: number;
  readonly count: number;
}

/** The same stretches of the same blocks, by number. */
interface Loaded {
  readonly blocks: readonly FlatBlock[];
  readonly numbers: Float64Array;
  readonly stretches: readonly KindStretch[];
}

/**
 * The indices of what a picture draws, gathered in one buffer: many small stretches drawn one by one cost far more than
 * copying them together. What is drawn again stays as it is.
 */
export class IndexStream {
  readonly #buffer: WebGLBuffer;
  #bytes = 0;
  #scratch = new Uint32Array(0);
  #loaded: Loaded | null = null;

  constructor(private readonly gl: WebGL2RenderingContext) {
    this.#buffer = gl.createBuffer();
  }

  /** Makes the indices of some lists those that are drawn with the vertices that are bound. @param firstVertexOf where blocks are */
  load(lists: DrawLists, firstVertexOf: (block: FlatBlock) => number): readonly KindStretch[] {
    const { gl } = this;
    gl.bindBuffer(gl.ELEMENT_ARRAY_BUFFER, this.#buffer);
    const ranges = flatKinds.flatMap((kind) => lists.of(kind));
    const blocks = ranges.map(({ block }) => block);
    const numbers = numbersOf(ranges, firstVertexOf);
    if (this.#loaded && isSame(this.#loaded, blocks, numbers)) return this.#loaded.stretches;
    const total = ranges.reduce((sum, { count }) => sum + count, 0);
    if (total > this.#scratch.length) this.#scratch = new Uint32Array(Math.ceil(1.5 * total));
    let at = 0;
    ranges.forEach(({ block, start, count }, range) => {
      block.copyIndices(start, count, numbers[3 * range]!, this.#scratch, at);
      at += count;
    });
    if (4 * total > this.#bytes) {
      this.#bytes = 4 * this.#scratch.length;
      gl.bufferData(gl.ELEMENT_ARRAY_BUFFER, this.#bytes, gl.STREAM_DRAW);
    }
    if (total > 0) gl.bufferSubData(gl.ELEMENT_ARRAY_BUFFER, 0, this.#scratch, 0, total);
    const stretches = stretchesOf(lists);
    this.#loaded = { blocks, numbers, stretches };
    return stretches;
  }

  dispose(): void {
    this.gl.deleteBuffer(this.#buffer);
  }
}

/** First vertex, start and count of each. */
function numbersOf(ranges: readonly BlockRange[], firstVertexOf: (block: FlatBlock) => number): Float64Array {
  const numbers = new Float64Array(3 * ranges.length);
  ranges.forEach(({ block, start, count }, range) => {
    numbers[3 * range] = firstVertexOf(block);
    numbers[3 * range + 1] = start;
    numbers[3 * range + 2] = count;
  });
  return numbers;
}

function isSame(loaded: Loaded, blocks: readonly FlatBlock[], numbers: Float64Array): boolean {
  return (
    loaded.numbers.length === numbers.length &&
    numbers.every((value, i) => value === loaded.numbers[i]) &&
    blocks.every((block, i) => block === loaded.blocks[i])
  );
}

function stretchesOf(lists: DrawLists): KindStretch[] {
  const stretches: KindStretch[] = [];
  let start = 0;
  for (const kind of flatKinds) {
    const count = lists.of(kind).reduce((sum, range) => sum + range.count, 0);
    if (count > 0) stretches.push({ kind, start, count });
    start += count;
  }
  return stretches;
}
