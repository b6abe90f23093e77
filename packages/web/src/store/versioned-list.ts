import { ApiError } from '../api/client';
import { sameJson } from './same-json';
import type { SavingState } from './saver';

/** Something on the server that anybody may change. */
export interface Versioned {
  readonly id: string;
  readonly name: string;
  readonly position: number;
  /** 0 while it is only here. */
  readonly version: number;
}

export interface VersionedApi<Item, New, Change> {
  readonly keep: (item: New & { readonly id: string }) => Promise<Item>;
  readonly change: (id: string, change: Change & { readonly version: number }) => Promise<Item>;
  readonly remove: (id: string) => Promise<void>;
}

/** A change to something that was changed elsewhere in the meantime. */
export interface Conflict<Item, Change> {
  readonly theirs: Item;
  readonly mine: Change;
}

interface Surroundings<Item, Change> {
  readonly save: SavingState['save'];
  /** Told after each change, with all in their order. */
  readonly onChange: (items: readonly Item[]) => void;
  readonly onConflict: (conflict: Conflict<Item, Change>) => void;
}

const inOrder = (a: Versioned, b: Versioned): number => a.position - b.position || (a.id < b.id ? -1 : 1);

/**
 * A list on the server as this window sees it: what the server has told, with the own changes on their way there. Each
 * shows at once and is sent in its turn; one that another window was faster with is a conflict, and nothing is lost.
 */
export class VersionedList<Item extends Versioned, New extends object, Change extends object> {
  readonly #known = new Map<string, Item>();
  readonly #gone = new Set<string>();
  /** The version that this window's last change of something has led to. */
  readonly #lastOwn = new Map<string, number>();
  #edits: readonly { readonly id: string; readonly change: Change }[] = [];

  constructor(
    private readonly api: VersionedApi<Item, New, Change>,
    private readonly around: Surroundings<Item, Change>,
  ) {}

  get items(): readonly Item[] {
    const items = [...this.#known.values()].filter(({ id }) => !this.#gone.has(id));
    return items.map((item) => this.#edited(item)).sort(inOrder);
  }

  find(id: string): Item | undefined {
    return this.items.find((item) => item.id === id);
  }

  /** What the server has, all of it. What is only here yet stays. */
  told(items: readonly Item[]): void {
    for (const [id, { version }] of this.#known) if (version > 0) this.#known.delete(id);
    for (const item of items) this.#known.set(item.id, item);
    this.#tell();
  }

  /** Another window, or this one, has changed something. */
  heard(item: Item): void {
    if ((this.#known.get(item.id)?.version ?? 0) > item.version) return;
    this.#known.set(item.id, item);
    this.#tell();
  }

  heardGone(id: string): void {
    this.#known.delete(id);
    this.#tell();
  }

  /** @param item as it is shown until the server has it @throws what the server refused it with */
  async add(item: Item, body: New & { readonly id: string }): Promise<void> {
    this.#known.set(item.id, item);
    this.#gone.delete(item.id);
    this.#tell();
    try {
      await this.around.save(async () => this.#saved(await this.#keep(body)));
    } catch (error) {
      this.heardGone(item.id);
      throw error;
    }
  }

  /** @throws what the server refused it with, but for a conflict */
  async change(id: string, change: Change): Promise<void> {
    const edit = { id, change };
    // whatever is heard of others until it is sent, it was made of this one
    const madeOf = this.#known.get(id)?.version ?? 0;
    this.#edits = [...this.#edits, edit];
    this.#tell();
    const settle = (): void => {
      this.#edits = this.#edits.filter((other) => other !== edit);
      this.#tell();
    };
    try {
      await this.around.save(async () => {
        const version = Math.max(madeOf, this.#lastOwn.get(id) ?? 0);
        this.#saved(await this.api.change(id, { ...change, version }));
      });
    } catch (error) {
      const theirs = currentOf(error) as Item | null;
      if (!theirs) throw error;
      // an answer may have been lost on its way
      if (isAlready(theirs, change)) this.#saved(theirs);
      else {
        this.heard(theirs);
        this.around.onConflict({ theirs, mine: change });
      }
    } finally {
      settle();
    }
  }

  /** @throws what the server refused it with */
  async remove(id: string): Promise<void> {
    this.#gone.add(id);
    this.#tell();
    try {
      await this.around.save(async () => {
        try {
          await this.api.remove(id);
        } catch (error) {
          if (!(error instanceof ApiError && error.status === 404)) throw error; // it was deleted elsewhere
        }
      });
      this.#known.delete(id);
    } finally {
      this.#gone.delete(id);
      this.#tell();
    }
  }

  async #keep(body: New & { readonly id: string }): Promise<Item> {
    try {
      return await this.api.keep(body);
    } catch (error) {
      const theirs = currentOf(error) as Item | null;
      if (theirs) return theirs; // it was sent before, and its answer lost
      throw error;
    }
  }

  /** What this window's change has led to. */
  #saved(item: Item): void {
    this.#lastOwn.set(item.id, item.version);
    this.heard(item);
  }

  #edited(item: Item): Item {
    return this.#edits.reduce((edited, { id, change }) => (id === item.id ? { ...edited, ...change } : edited), item);
  }

  #tell(): void {
    this.around.onChange(this.items);
  }
}

const currentOf = (error: unknown): object | null =>
  error instanceof ApiError && error.status === 409 && typeof error.current === 'object' ? error.current : null;

/** Whether something is as a change wanted it. Pictures aren't compared: there they are addresses. */
function isAlready(item: object, change: object): boolean {
  const own = item as Record<string, unknown>;
  return Object.entries(change).every(([name, value]) => name === 'picture' || sameJson(own[name], value));
}

/** A place before another item, or at the end with null. */
export function positionBefore(items: readonly Versioned[], id: string, before: string | null): number {
  const others = items.filter((one) => one.id !== id);
  const found = before === null ? -1 : others.findIndex((one) => one.id === before);
  const at = found < 0 ? others.length : found;
  const [low, high] = [others[at - 1]?.position, others[at]?.position];
  return low === undefined ? (high ?? 1) - 1 : high === undefined ? low + 1 : low + (high - low) / 2;
}
