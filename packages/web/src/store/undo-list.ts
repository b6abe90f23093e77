/** So many changes can be taken back. */
const MOST_UNDONE = 100;

/** The changes of this session that can be taken back, the last one first. */
export class UndoList {
  readonly #changes: { readonly name: string; readonly run: () => Promise<void> }[] = [];

  /** @param onChange told what is taken back next, `rename` and so on; null if there is nothing */
  constructor(private readonly onChange: (name: string | null) => void) {}

  add(name: string, run: () => Promise<void>): void {
    this.#changes.push({ name, run });
    if (this.#changes.length > MOST_UNDONE) this.#changes.shift();
    this.onChange(name);
  }

  async undo(): Promise<void> {
    const last = this.#changes.pop();
    this.onChange(this.#changes.at(-1)?.name ?? null);
    await last?.run();
  }
}
