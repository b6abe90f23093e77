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
import { keptList, type KeptState } from './kept-list';
import { positionBefore } from './versioned-list';

export type ArrangementChange = Omit<ChangeArrangementDto, 'version'>;

interface ArrangementsState extends KeptState<ArrangementHeadDto, ArrangementChange> {
  /** In their order; null until the server has told. */
  readonly arrangements: readonly ArrangementHeadDto[] | null;
  /** The one that was kept or taken last. */
  readonly current: string | null;
  readonly load: () => Promise<void>;
  readonly keep: (name: string, arranged: ArrangedDto, picture: string) => Promise<void>;
  /** @returns what it is made of; null if it can't be loaded, which is told */
  readonly fetch: (id: string) => Promise<ArrangedDto | null>;
  readonly change: (id: string, change: ArrangementChange) => Promise<void>;
  readonly move: (id: string, before: string | null) => Promise<void>;
  readonly remove: (id: string) => Promise<void>;
}

const headOf = ({ arranged, ...head }: ArrangementDto): ArrangementHeadDto => ({
  ...head,
  panes: arranged.panes.length,
});

/** Arrangements of panes that are kept on the server, for every drawing. */
export const useArrangements = create<ArrangementsState>()((set) => {
  const { list, state, undoable, add, change, remove, orTell } = keptList<
    ArrangementHeadDto,
    KeepArrangementDto,
    ArrangementChange
  >(
    {
      keep: async (arrangement) => headOf(await api.keepArrangement(arrangement)),
      change: async (id, changed) => headOf(await api.changeArrangement(id, changed)),
      remove: api.removeArrangement,
    },
    (arrangements) => set({ arrangements }),
    set,
  );
  const keep = (body: KeepArrangementDto & { readonly id: string }): Promise<void> => {
    const { arranged, ...rest } = body;
    return add({ ...rest, panes: arranged.panes.length, version: 0, updatedAt: new Date().toISOString() }, body);
  };
  return {
    ...state,
    arrangements: null,
    current: null,
    async load() {
      await orTell(
        'The arrangements can’t be had',
        api.arrangements().then((arrangements) => list.told(arrangements)),
      );
    },
    async keep(name, arranged, picture) {
      const id = crypto.randomUUID();
      const position = (list.items.at(-1)?.position ?? 0) + 1;
      set({ current: id });
      undoable('save', () => list.remove(id));
      await keep({ id, name, position, arranged, picture });
    },
    async fetch(id) {
      try {
        const { arranged } = await api.arrangement(id);
        set({ current: id });
        return arranged;
      } catch (error) {
        useNotes.getState().tell('failed', `The arrangement can’t be had: ${troubleOf(error).title}`);
        return null;
      }
    },
    async change(id, changed) {
      const head = list.find(id);
      if (!head) return;
      if (changed.name !== undefined) undoable('rename', () => change(head, { name: head.name }));
      else {
        const whole = await api.arrangement(id).catch(() => null);
        if (whole) undoable('update', () => change(head, { arranged: whole.arranged }));
      }
      await change(head, changed);
    },
    async move(id, before) {
      const head = list.find(id);
      if (!head) return;
      undoable('move', () => change(head, { position: head.position }));
      await change(head, { position: positionBefore(list.items, id, before) });
    },
    async remove(id) {
      const head = list.find(id);
      if (!head) return;
      // what would come back has to be had before it goes
      const whole = await api.arrangement(id).catch(() => null);
      if (whole) {
        const { arranged, name, position } = whole;
        const picture = head.picture === '' ? '' : await api.picture(head.picture).catch(() => '');
        undoable('delete', () => keep({ id, name, position, arranged, picture }));
      }
      await remove(head);
    },
  };
});
