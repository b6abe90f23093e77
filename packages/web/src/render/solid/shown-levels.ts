import type { SelectableTile } from '@gull-pane/core/pyramid/select';
import { paneOf } from '../scene/scene';

/** Which coarse forms stand for which tiles, and which of them each pane shows. */
export class ShownLevels {
  /** The tile that each is below; −1 at the top. */
  readonly #above: Int32Array;
  /** What each picture shows at rest. */
  readonly #chosen = new Map<string, readonly number[]>();

  constructor(private readonly tiles: readonly SelectableTile[]) {
    this.#above = new Int32Array(tiles.length).fill(-1);
    tiles.forEach(({ children }, tile) => {
      for (const child of children) this.#above[child] = tile;
    });
  }

  isCoarse(tile: number): boolean {
    return this.tiles[tile]!.coarseness !== undefined;
  }

  /** A picture shows these tiles at rest. */
  choose(picture: string, tiles: readonly number[]): void {
    this.#chosen.set(picture, tiles);
  }

  leave(pane: string): void {
    for (const picture of this.#chosen.keys()) if (paneOf(picture) === pane) this.#chosen.delete(picture);
  }

  /** The coarse forms that stand for some tiles and others, the coarsest first. */
  coarseFormsAbove(tiles: readonly number[]): number[] {
    const above = new Set<number>();
    for (const tile of tiles)
      for (let at = this.#above[tile]!; at >= 0 && !above.has(at); at = this.#above[at]!)
        if (this.isCoarse(at)) above.add(at);
    return [...above].sort((a, b) => a - b); // tiles are numbered from the top
  }

  /**
   * The tiles that a pane's lines of sight can meet: all exact ones that are loaded, and the coarse forms that it shows at rest or
   * shows until those are there.
   */
  shownIn(pane: string, loaded: { has(tile: number): boolean; keys(): Iterable<number> }): ReadonlySet<number> {
    const shown = new Set<number>();
    for (const tile of loaded.keys()) if (!this.isCoarse(tile)) shown.add(tile);
    for (const tile of this.#chosen.get(pane) ?? [])
      for (let at = tile; at >= 0; at = this.#above[at]!) {
        if (!loaded.has(at) || (at !== tile && !this.isCoarse(at))) continue;
        shown.add(at);
        break;
      }
    return shown;
  }
}
