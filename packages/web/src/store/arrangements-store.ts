import { create } from 'zustand';
import {
  type ArrangedDto,
  type ArrangementDto,
  type ArrangementHeadDto,
  type ChangeArrangementDto,
  type KeepArrangementDto,
} from '@gull-pane/protocol/arrangements';
import { api } from '../api/client';
import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import { useSaver } from './saver';
import { UndoList } from './undo-list';
import { VersionedList, positionBefore, type Conflict } from './versioned-list';

export type ArrangementChange = Omit<ChangeArrangementDto, 'version'>;

interface ArrangementsState {
  /** In their order; null until the server has told. */
  readonly arrangements: readonly ArrangementHeadDto[] | null;
  /** The one that was kept or taken last. */
  readonly current: string | null;
  readonly conflicts: readonly Conflict<ArrangementHeadDto, ArrangementChange>[];
  /** What undo takes back next; null if there is nothing. */
  readonly undoes: string | null;
  readonly load: () => Promise<void>;
  readonly keep: (name: string, arranged: ArrangedDto, picture: string) => Promise<void>;
  /** @returns what it is made of; null if it can't be had, which is told */
  readonly fetch: (id: string) => Promise<ArrangedDto | null>;
  readonly change: (id: string, change: ArrangementChange) => Promise<void>;
  readonly move: (id: string, before: string | null) => Promise<void>;
  readonly remove: (id: string) => Promise<void>;
  readonly undo: () => Promise<void>;
  readonly settle: (id: string, takesMine: boolean) => Promise<void>;
  readonly heard: (arrangement: ArrangementHeadDto) => void;
  readonly heardGone: (id: string) => void;
}

const headOf = ({ arranged, ...head }: ArrangementDto): ArrangementHeadDto => ({
  ...head,
  panes: arranged.panes.length,
});

/** Arrangements of panes that are kept on the server, for every drawing. */
export const useArrangements = create<ArrangementsState>()((set, get) => {
  const list = new VersionedList<ArrangementHeadDto, KeepArrangementDto, ArrangementChange>(
    {
      keep: async (arrangement) => headOf(await api.keepArrangement(arrangement)),
      change: async (id, change) => headOf(await api.changeArrangement(id, change)),
      remove: api.removeArrangement,
    },
    {
      save: useSaver.getState().save,
      onChange: (arrangements) => set({ arrangements }),
      onConflict: (conflict) => set({ conflicts: [...get().conflicts, conflict] }),
    },
  );
  const undoable = new UndoList((undoes) => set({ undoes }));
  const fail = (what: string, error: unknown): void =>
    useNotes.getState().tell('failed', `${what}: ${troubleOf(error).title}`);
  const add = async (body: KeepArrangementDto & { readonly id: string }): Promise<void> => {
    const { arranged, ...rest } = body;
    const head = { ...rest, panes: arranged.panes.length, version: 0, updatedAt: new Date().toISOString() };
    try {
      await list.add(head, body);
    } catch (error) {
      fail(`“${body.name}” isn’t kept`, error);
    }
  };
  const change = async ({ id, name }: ArrangementHeadDto, changed: ArrangementChange): Promise<void> => {
    try {
      await list.change(id, changed);
    } catch (error) {
      fail(`“${name}” isn’t changed`, error);
    }
  };
  return {
    arrangements: null,
    current: null,
    conflicts: [],
    undoes: null,
    async load() {
      try {
        list.told(await api.arrangements());
      } catch (error) {
        fail('The arrangements can’t be had', error);
      }
    },
    async keep(name, arranged, picture) {
      const id = crypto.randomUUID();
      const position = (list.items.at(-1)?.position ?? 0) + 1;
      set({ current: id });
      undoable.add('keeping', () => list.remove(id));
      await add({ id, name, position, arranged, picture });
    },
    async fetch(id) {
      try {
        const { arranged } = await api.arrangement(id);
        set({ current: id });
        return arranged;
      } catch (error) {
        fail('The arrangement can’t be had', error);
        return null;
      }
    },
    async change(id, changed) {
      const head = list.find(id);
      if (!head) return;
      if (changed.name !== undefined) undoable.add('rename', () => change(head, { name: head.name }));
      else {
        const whole = await api.arrangement(id).catch(() => null);
        if (whole) undoable.add('update', () => change(head, { arranged: whole.arranged }));
      }
      await change(head, changed);
    },
    async move(id, before) {
      const head = list.find(id);
      if (!head) return;
      undoable.add('move', () => change(head, { position: head.position }));
      await change(head, { position: positionBefore(list.items, id, before) });
    },
    async remove(id) {
      const head = list.find(id);
      if (!head) return;
      try {
        const { arranged, name, position } = await api.arrangement(id);
        const picture = head.picture === '' ? '' : await api.picture(head.picture).catch(() => '');
        undoable.add('delete', () => add({ id, name, position, arranged, picture }));
        await list.remove(id);
      } catch (error) {
        fail(`“${head.name}” isn’t deleted`, error);
      }
    },
    undo: () => undoable.undo(),
    async settle(id, takesMine) {
      const conflict = get().conflicts.find(({ theirs }) => theirs.id === id);
      if (!conflict) return;
      set({ conflicts: get().conflicts.filter((one) => one !== conflict) });
      if (takesMine) await change(conflict.theirs, conflict.mine);
    },
    heard: (arrangement) => list.heard(arrangement),
    heardGone: (id) => list.heardGone(id),
  };
});
