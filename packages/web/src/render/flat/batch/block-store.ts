import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { WORDS_PER_VERTEX, type FlatBlock } from './flat-block';
import { ATTRIBUTES, UNITS } from './flat-program';
import { ORIGINS_PER_ROW_BITS } from './flat-shaders';
import { RangeAllocator } from './range-allocator';

/** Where a block lies among all. */
interface Placed {
  readonly firstVertex: number;
  readonly slot: number;
  readonly leave: () => void;
}

/** Memory of a graphics processor. */
interface Buffer {
  readonly buffer: WebGLBuffer;
  readonly bytes: number;
}

const BYTES_PER_VERTEX = 4 * WORDS_PER_VERTEX;
/** Vertices that the buffer has room for at first. */
const FIRST_CAPACITY = 1 << 14;
const FIRST_SCRATCH_BYTES = 1 << 18;
const ORIGINS_PER_ROW = 1 << ORIGINS_PER_ROW_BITS;
/** Sixteen bits of a vertex say which block it is of. */
const MOST_BLOCKS = 1 << 16;

/** The vertices of all blocks that one graphics processor holds of a drawing, in one buffer. */
export class BlockStore {
  readonly #array: WebGLVertexArrayObject;
  readonly #placed = new Map<FlatBlock, Placed>();
  readonly #vertices = new RangeAllocator(FIRST_CAPACITY);
  readonly #slots = new RangeAllocator(MOST_BLOCKS);
  readonly #originTexture: WebGLTexture;
  #buffer: Buffer;
  /** Where vertices are packed: memory of its own for each block would lie about until it is collected. */
  #scratch = new ArrayBuffer(0);
  /** x, y of each slot's origin, measured from the anchor, then what single precision leaves out of them. */
  #origins = new Float32Array(4 * ORIGINS_PER_ROW);
  #areOriginsNew = true;

  /** @param anchor the point that origins are measured from, drawing units */
  constructor(
    private readonly gl: WebGL2RenderingContext,
    private readonly anchor: Vec3,
  ) {
    this.#array = gl.createVertexArray();
    this.#originTexture = nearestTexture(gl, UNITS.origins);
    this.#buffer = { buffer: gl.createBuffer(), bytes: 0 };
    gl.bindVertexArray(this.#array);
    this.#sizeBuffer();
  }

  /** Makes its vertices those that are drawn. */
  bind(): void {
    this.gl.bindVertexArray(this.#array);
  }

  /** Makes its origins those that are looked up, with those of what has come in last. */
  useOrigins(): void {
    const { gl } = this;
    gl.activeTexture(gl.TEXTURE0 + UNITS.origins);
    gl.bindTexture(gl.TEXTURE_2D, this.#originTexture);
    if (!this.#areOriginsNew) return;
    this.#areOriginsNew = false;
    gl.pixelStorei(gl.UNPACK_FLIP_Y_WEBGL, false);
    const rows = this.#origins.length / (4 * ORIGINS_PER_ROW);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, ORIGINS_PER_ROW, rows, 0, gl.RGBA, gl.FLOAT, this.#origins);
  }

  /** @returns the number of a block's first vertex; it is taken in if it isn't there yet. The store must be bound. */
  firstVertexOf(block: FlatBlock): number {
    return (this.#placed.get(block) ?? this.#take(block)).firstVertex;
  }

  dispose(): void {
    const { gl } = this;
    for (const [block, { leave }] of this.#placed) block.forget(leave);
    this.#placed.clear();
    gl.deleteVertexArray(this.#array);
    gl.deleteBuffer(this.#buffer.buffer);
    gl.deleteTexture(this.#originTexture);
  }

  #take(block: FlatBlock): Placed {
    const { gl } = this;
    const firstVertex = this.#room(block.vertices);
    const slot = this.#slots.take(1);
    if (slot === null) throw new RangeError(`block store: more than ${MOST_BLOCKS} blocks`);
    this.#setOrigin(slot, block.origin);
    gl.bindBuffer(gl.ARRAY_BUFFER, this.#buffer.buffer);
    const bytes = BYTES_PER_VERTEX * block.vertices;
    if (bytes > this.#scratch.byteLength) this.#scratch = new ArrayBuffer(Math.max(bytes, FIRST_SCRATCH_BYTES));
    block.packVertices(slot, this.#scratch);
    gl.bufferSubData(gl.ARRAY_BUFFER, BYTES_PER_VERTEX * firstVertex, new Uint8Array(this.#scratch, 0, bytes));
    const leave = (): void => {
      this.#placed.delete(block);
      this.#vertices.give(firstVertex, block.vertices);
      this.#slots.give(slot, 1);
    };
    block.onDispose(leave);
    const placed = { firstVertex, slot, leave };
    this.#placed.set(block, placed);
    return placed;
  }

  /** Room for so many; the buffer grows by doubling. */
  #room(vertices: number): number {
    for (;;) {
      const start = this.#vertices.take(vertices);
      if (start !== null) return start;
      const { capacity } = this.#vertices;
      this.#vertices.growTo(capacity + Math.max(capacity, vertices));
      this.#sizeBuffer();
    }
  }

  /** Makes the buffer as large as the room that was given out, with what was in it. */
  #sizeBuffer(): void {
    const { gl } = this;
    const bytes = BYTES_PER_VERTEX * this.#vertices.capacity;
    const before = this.#buffer;
    const buffer = gl.createBuffer();
    gl.bindBuffer(gl.ARRAY_BUFFER, buffer);
    gl.bufferData(gl.ARRAY_BUFFER, bytes, gl.DYNAMIC_DRAW);
    if (before.bytes > 0) {
      gl.bindBuffer(gl.COPY_READ_BUFFER, before.buffer);
      gl.copyBufferSubData(gl.COPY_READ_BUFFER, gl.ARRAY_BUFFER, 0, 0, before.bytes);
      gl.bindBuffer(gl.COPY_READ_BUFFER, null);
    }
    gl.deleteBuffer(before.buffer);
    this.#buffer = { buffer, bytes };
    for (const place of Object.values(ATTRIBUTES)) gl.enableVertexAttribArray(place);
    gl.vertexAttribPointer(ATTRIBUTES.place, 2, gl.FLOAT, false, BYTES_PER_VERTEX, 0);
    gl.vertexAttribIPointer(ATTRIBUTES.mark, 2, gl.UNSIGNED_INT, BYTES_PER_VERTEX, 8);
    gl.vertexAttribPointer(ATTRIBUTES.along, 1, gl.FLOAT, false, BYTES_PER_VERTEX, 16);
    gl.vertexAttribPointer(ATTRIBUTES.aside, 2, gl.SHORT, true, BYTES_PER_VERTEX, 20);
  }

  #setOrigin(slot: number, { x, y }: Vec3): void {
    while (4 * slot >= this.#origins.length) {
      const longer = new Float32Array(2 * this.#origins.length);
      longer.set(this.#origins);
      this.#origins = longer;
    }
    this.#origins.set(inTwoFloats(x - this.anchor.x, y - this.anchor.y), 4 * slot);
    this.#areOriginsNew = true;
  }
}

/** Two doubles in single precision, then what that leaves out. */
export function inTwoFloats(x: number, y: number): [number, number, number, number] {
  const [highX, highY] = [Math.fround(x), Math.fround(y)];
  return [highX, highY, x - highX, y - highY];
}

/** A texture that is looked up texel by texel, bound to a unit. */
export function nearestTexture(gl: WebGL2RenderingContext, unit: number): WebGLTexture {
  const texture = gl.createTexture();
  gl.activeTexture(gl.TEXTURE0 + unit);
  gl.bindTexture(gl.TEXTURE_2D, texture);
  for (const filter of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
    gl.texParameteri(gl.TEXTURE_2D, filter, gl.NEAREST);
  return texture;
}
