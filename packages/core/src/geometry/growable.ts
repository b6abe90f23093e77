type Numbers = Float64Array | Float32Array | Int32Array | Uint32Array | Uint16Array | Uint8Array;

interface NumbersOf<T extends Numbers> {
  new (length: number): T;
  new (buffer: ArrayBufferLike, byteOffset: number, length: number): T;
  readonly BYTES_PER_ELEMENT: number;
}

/** Whose memory a column lies in: of this thread alone, or of all threads that are given a view of it. */
export type Memory = 'own' | 'shared';

/** Small, since there may be one for each of many objects; so few doubles don't need memory of their own beside the object. */
const FIRST_LENGTH = 8;
/** So few numbers are sooner copied than handed over. */
const FEW = 64;
/** Addresses that are kept free for a shared column: as long as it fits, it grows where it is. */
const RESERVED_BYTES = 2 ** 32;

/** A typed array that grows by doubling: bulk data without an object a number. */
export class Growable<T extends Numbers> {
  #data: T;
  length = 0;

  constructor(
    private readonly make: NumbersOf<T>,
    private readonly memory: Memory = 'own',
  ) {
    this.#data = memory === 'own' ? new make(FIRST_LENGTH) : sharedNumbers(make, FIRST_LENGTH);
  }

  /** A column that is filled with what a view holds, in the same memory. */
  static of<T extends Numbers>(view: T): Growable<T> {
    const column = new Growable<T>(view.constructor as unknown as NumbersOf<T>);
    column.#data = view;
    column.length = view.length;
    return column;
  }

  push(value: number): void {
    if (this.length === this.#data.length) this.#grow(this.length + 1);
    this.#data[this.length++] = value;
  }

  append(values: ArrayLike<number>): void {
    if (this.length + values.length > this.#data.length) this.#grow(this.length + values.length);
    if (values.length <= FEW) for (let i = 0; i < values.length; i++) this.#data[this.length + i] = values[i]!;
    else this.#data.set(values, this.length);
    this.length += values.length;
  }

  at(index: number): number {
    return this.#data[index]!;
  }

  /** The filled part; shares memory and is out of date after the next growth. */
  view(): T {
    return this.#data.subarray(0, this.length) as T;
  }

  clear(): void {
    this.length = 0;
  }

  #grow(atLeast: number): void {
    const length = Math.max(atLeast, this.#data.length * 2);
    const inPlace = this.memory === 'shared' ? grownInPlace(this.#data, this.make, atLeast, length) : null;
    const bigger = inPlace ?? (this.memory === 'own' ? new this.make(length) : sharedNumbers(this.make, length));
    if (!inPlace) bigger.set(this.#data.subarray(0, this.length));
    this.#data = bigger;
  }
}

/** ECMAScript 2024, 25.2: shared memory that grows without being moved. */
interface GrowableMemory extends SharedArrayBuffer {
  readonly maxByteLength: number;
  grow(byteLength: number): void;
}
type MakeMemory = new (byteLength: number, options: { maxByteLength: number }) => GrowableMemory;

function sharedNumbers<T extends Numbers>(make: NumbersOf<T>, length: number): T {
  const bytes = length * make.BYTES_PER_ELEMENT;
  const Memory = SharedArrayBuffer as unknown as MakeMemory;
  return new make(new Memory(bytes, { maxByteLength: Math.max(RESERVED_BYTES, bytes) }), 0, length);
}

/** Past this a column that needn't be moved grows by a quarter: what isn't used is lost. */
const LARGE_BYTES = 2 ** 24;

function grownInPlace<T extends Numbers>(data: T, make: NumbersOf<T>, atLeast: number, length: number): T | null {
  const memory = data.buffer as unknown as GrowableMemory;
  const wanted = data.byteLength < LARGE_BYTES ? length : Math.max(atLeast, Math.ceil(data.length * 1.25));
  const bytes = wanted * make.BYTES_PER_ELEMENT;
  if (bytes > memory.maxByteLength) return null;
  memory.grow(bytes);
  return new make(memory, 0, wanted);
}
