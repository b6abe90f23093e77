import { paneOf } from './scene';

/** The tiles that each picture of a drawing wants, and what all of them want together. */
export class PaneWishes {
  readonly #wanted = new Map<string, readonly number[]>();

  of(picture: string): readonly number[] {
    return this.#wanted.get(picture) ?? [];
  }

  /** @param tiles best first @returns the wishes of all, those of no picture before its peers' */
  change(picture: string, tiles: readonly number[]): number[] {
    if (tiles.length > 0) this.#wanted.set(picture, tiles);
    else this.#wanted.delete(picture);
    return this.#all();
  }

  /** A pane has gone, with all its pictures. */
  drop(pane: string): number[] {
    for (const picture of this.#wanted.keys()) if (paneOf(picture) === pane) this.#wanted.delete(picture);
    return this.#all();
  }

  #all(): number[] {
    const lists = [...this.#wanted.values()];
    const longest = Math.max(0, ...lists.map((list) => list.length));
    const union = new Set<number>();
    for (let i = 0; i < longest; i++) for (const list of lists) if (i < list.length) union.add(list[i]!);
    return [...union];
  }
}
