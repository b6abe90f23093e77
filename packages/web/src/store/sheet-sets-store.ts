import { createStore, type StoreApi } from 'zustand/vanilla';
import type { ChangeSheetSetDto, KeepSheetSetDto, SheetSetDto } from '@gull-pane/protocol/sheet-sets';
import { sheetSetsApi } from '../api/sheet-sets-api';
import { keptList, type KeptState } from './kept-list';

export type SheetSetChange = Omit<ChangeSheetSetDto, 'version'>;
export type NewSheetSet = Pick<SheetSetDto, 'name' | 'fields' | 'sheets'>;

export interface SheetSetsState extends KeptState<SheetSetDto, SheetSetChange> {
  /** In their order; null until the server has told. */
  readonly sets: readonly SheetSetDto[] | null;
  readonly load: () => Promise<void>;
  /** Keeps a new set. @returns its id */
  readonly begin: (set: NewSheetSet) => string;
  /** @param what names the change for its undo */
  readonly change: (id: string, change: SheetSetChange, what: string) => Promise<void>;
  readonly remove: (id: string) => Promise<void>;
}
export type SheetSetsStore = StoreApi<SheetSetsState>;

/** Sets of sheets of a drawing, kept on the server for everybody. */
export function createSheetSetsStore(drawingId: string): SheetSetsStore {
  return createStore<SheetSetsState>((set) => {
    const { list, state, undoable, add, change, remove, orTell } = keptList<
      SheetSetDto,
      KeepSheetSetDto,
      SheetSetChange
    >(
      {
        keep: (sheetSet) => sheetSetsApi.keep(drawingId, sheetSet),
        change: sheetSetsApi.change,
        remove: sheetSetsApi.remove,
      },
      (sets) => set({ sets }),
      set,
    );
    const keep = ({ id, name, position, fields, sheets }: KeepSheetSetDto & { readonly id: string }): Promise<void> => {
      const body = { id, name, position, fields, sheets };
      return add({ ...body, drawingId, version: 0, updatedAt: new Date().toISOString() }, body);
    };
    return {
      ...state,
      sets: null,
      async load() {
        await orTell(
          'The sheets can’t be had',
          sheetSetsApi.list(drawingId).then((sets) => list.told(sets)),
        );
      },
      begin(begun) {
        const id = crypto.randomUUID();
        undoable('new set', () => list.remove(id));
        void keep({ id, position: (list.items.at(-1)?.position ?? 0) + 1, ...begun });
        return id;
      },
      async change(id, changed, what) {
        const before = list.find(id);
        if (!before) return;
        const former = Object.fromEntries(
          Object.keys(changed).map((field) => [field, before[field as keyof SheetSetChange]]),
        ) as SheetSetChange;
        undoable(what, () => change(before, former));
        await change(before, changed);
      },
      async remove(id) {
        const gone = list.find(id);
        if (!gone) return;
        undoable('delete', () => keep(gone));
        await remove(gone);
      },
    };
  });
}
