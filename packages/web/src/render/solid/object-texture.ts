import { DataTexture, NearestFilter, RedFormat, UnsignedByteType } from 'three';

/** Objects side by side in a row of the texture. */
export const OBJECTS_PER_ROW = 1024;

/** How an object of a solid is shown; of a faded one only the edges are, faintly. */
export const ObjectState = { shown: 0, hidden: 1, picked: 2, hovered: 3, faded: 4 } as const;

/** Keeps a byte an object, as the shaders read it; a change of some objects writes no geometry. */
export class ObjectTexture {
  readonly texture: DataTexture;
  readonly #states: Uint8Array<ArrayBuffer>;

  constructor(private readonly count: number) {
    const rows = Math.max(Math.ceil(count / OBJECTS_PER_ROW), 1);
    this.#states = new Uint8Array(rows * OBJECTS_PER_ROW);
    this.texture = new DataTexture(this.#states, OBJECTS_PER_ROW, rows, RedFormat, UnsignedByteType);
    this.texture.minFilter = this.texture.magFilter = NearestFilter;
    this.texture.unpackAlignment = 1;
    this.texture.needsUpdate = true;
  }

  stateOf(object: number): number {
    return this.#states[object]!;
  }

  /** @returns whether any object is shown differently now */
  update(stateOf: (object: number) => number): boolean {
    let hasChanged = false;
    for (let object = 0; object < this.count; object++) {
      const state = stateOf(object);
      if (this.#states[object] === state) continue;
      this.#states[object] = state;
      hasChanged = true;
    }
    if (hasChanged) this.texture.needsUpdate = true;
    return hasChanged;
  }
}
