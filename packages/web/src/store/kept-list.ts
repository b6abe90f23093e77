import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import { useSaver } from './saver';
import { UndoList } from './undo-list';
import { VersionedList, type Conflict, type Versioned, type VersionedApi } from './versioned-list';

/** What a store of things that are kept on the server has of them, besides the things. */
export interface KeptState<Item, Change> {
  /** What undo takes back next: `delete`, `rename` and so on; null if there is nothing. */
  readonly undoes: string | null;
  /** Changes of this window that another one was faster with. */
  readonly conflicts: readonly Conflict<Item, Change>[];
  /** Takes the last change of this session back. */
  readonly undo: () => Promise<void>;
  /** Resolves a conflict: keeps the version on the server, or the own change. */
  readonly settle: (id: string, takesMine: boolean) => Promise<void>;
  /** Another window has kept or changed one. */
  readonly heard: (item: Item) => void;
  readonly heardGone: (id: string) => void;
}

type Told<Item, Change> = Partial<Pick<KeptState<Item, Change>, 'undoes' | 'conflicts'>>;

export interface KeptList<Item extends Versioned, New extends object, Change extends object> {
  readonly list: VersionedList<Item, New, Change>;
  /** To be spread into the store. */
  readonly state: KeptState<Item, Change>;
  /** @param what names the change for its undo */
  readonly undoable: (what: string, run: () => Promise<void>) => void;
  /** Keeps one; a note tells if that can't be. */
  readonly add: (item: Item, body: New & { readonly id: string }) => Promise<void>;
  readonly change: (item: Item, change: Change) => Promise<void>;
  readonly remove: (item: Item) => Promise<void>;
  /** Does something, or tells what didn't work and why. */
  readonly orTell: (what: string, doing: Promise<void>) => Promise<void>;
}

/**
 * Things that everybody may change, with undo and with conflicts as choices.
 * @param onChange told after each change, with all in their order
 */
export function keptList<Item extends Versioned, New extends object, Change extends object>(
  api: VersionedApi<Item, New, Change>,
  onChange: (items: readonly Item[]) => void,
  set: (told: Told<Item, Change>) => void,
): KeptList<Item, New, Change> {
  let conflicts: readonly Conflict<Item, Change>[] = [];
  const tellConflicts = (now: typeof conflicts): void => {
    conflicts = now;
    set({ conflicts });
  };
  const list = new VersionedList<Item, New, Change>(api, {
    save: useSaver.getState().save,
    onChange,
    onConflict: (conflict) => tellConflicts([...conflicts, conflict]),
  });
  const undoList = new UndoList((undoes) => set({ undoes }));
  const orTell = async (what: string, doing: Promise<void>): Promise<void> => {
    try {
      await doing;
    } catch (error) {
      useNotes.getState().tell('failed', `${what}: ${troubleOf(error).title}`);
    }
  };
  const change = ({ id, name }: Item, changed: Change): Promise<void> =>
    orTell(`“${name}” isn’t changed`, list.change(id, changed));
  return {
    list,
    state: {
      undoes: null,
      conflicts,
      undo: () => undoList.undo(),
      async settle(id, takesMine) {
        const conflict = conflicts.find(({ theirs }) => theirs.id === id);
        if (!conflict) return;
        tellConflicts(conflicts.filter((one) => one !== conflict));
        if (takesMine) await change(conflict.theirs, conflict.mine);
      },
      heard: (item) => list.heard(item),
      heardGone: (id) => list.heardGone(id),
    },
    undoable: (what, run) => undoList.add(what, run),
    add: (item, body) => orTell(`“${item.name}” isn’t kept`, list.add(item, body)),
    change,
    remove: ({ id, name }) => orTell(`“${name}” isn’t deleted`, list.remove(id)),
    orTell,
  };
}
