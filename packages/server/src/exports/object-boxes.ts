import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { textFrame } from '@gull-pane/core/drawing/letter-advance';
import { Growable } from '@gull-pane/core/geometry/growable';
import { readStore, type StoredObject } from '../pyramid/read-store.ts';

/** Along the axes of a plan, drawing units. */
export interface Box {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** What an object covers, lines without their widths. */
export function boxOfObject({ path, text }: Pick<StoredObject, 'path' | 'text'>): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const add = (x: number, y: number): void => {
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  };
  if (path) visitExtremes(path, add);
  if (text) {
    const frame = textFrame(text);
    for (let i = 0; i < frame.length; i += 2) add(frame[i]!, frame[i + 1]!);
  }
  return { minX, minY, maxX, maxY };
}

export const overlap = (a: Box, b: Box): boolean =>
  a.minX <= b.maxX && a.maxX >= b.minX && a.minY <= b.maxY && a.maxY >= b.minY;

/** What each object of a plan covers: those of a part of it are found without reading the others. */
export class ObjectBoxes {
  readonly #sides = new Growable(Float64Array);

  constructor(folder: string) {
    for (const object of readStore(folder)) {
      const { minX, minY, maxX, maxY } = boxOfObject(object);
      this.#sides.append([minX, minY, maxX, maxY]);
    }
  }

  /** Whether an object reaches into a box. */
  reach(id: number, box: Box): boolean {
    const at = 4 * id;
    const [minX, minY, maxX, maxY] = [0, 1, 2, 3].map((k) => this.#sides.at(at + k)) as [
      number,
      number,
      number,
      number,
    ];
    return overlap({ minX, minY, maxX, maxY }, box);
  }

  /** The middle of an object; drawing units. */
  middle(id: number): readonly [x: number, y: number] {
    const at = 4 * id;
    return [(this.#sides.at(at) + this.#sides.at(at + 2)) / 2, (this.#sides.at(at + 1) + this.#sides.at(at + 3)) / 2];
  }

  get length(): number {
    return this.#sides.length / 4;
  }
}
