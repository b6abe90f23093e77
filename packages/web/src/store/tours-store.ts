import { createStore, type StoreApi } from 'zustand/vanilla';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { ChangeTourDto, KeepTourDto, StopDto, TourDto } from '@gull-pane/protocol/tours';
import { api } from '../api/client';
import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import { useSaver } from './saver';
import { UndoList } from './undo-list';
import { VersionedList, type Conflict } from './versioned-list';

export type TourChange = Omit<ChangeTourDto, 'version'>;

export interface ToursState {
  /** In their order; null until the server has told. */
  readonly tours: readonly TourDto[] | null;
  /** What undo takes back next; null if there is nothing. */
  readonly undoes: string | null;
  readonly conflicts: readonly Conflict<TourDto, TourChange>[];
  readonly load: () => Promise<void>;
  /** Keeps a new tour through cards. @returns its id */
  readonly begin: (name: string, cards: readonly Pick<CardDto, 'id'>[]) => string;
  /** @param what names the change for its undo */
  readonly change: (id: string, change: TourChange, what: string) => Promise<void>;
  readonly remove: (id: string) => Promise<void>;
  readonly undo: () => Promise<void>;
  readonly settle: (id: string, takesMine: boolean) => Promise<void>;
  readonly heard: (tour: TourDto) => void;
  readonly heardGone: (id: string) => void;
}
export type ToursStore = StoreApi<ToursState>;

const USUAL_TRAVEL_MS = 3000;
const USUAL_STAY_MS = 2000;

/** A stop at a card as it is to begin with. */
export const stopAt = (cardId: string): StopDto => ({
  ...{ id: crypto.randomUUID(), cardId, caption: '', travelMs: USUAL_TRAVEL_MS, stayMs: USUAL_STAY_MS },
  ...{ easing: 'gentle', looksChange: 'midway', driftRadPerS: 0 },
});

/** Tours through the views of a drawing, kept on the server for everybody. */
export function createToursStore(drawingId: string): ToursStore {
  return createStore<ToursState>((set, get) => {
    const list = new VersionedList<TourDto, KeepTourDto, TourChange>(
      { keep: (tour) => api.keepTour(drawingId, tour), change: api.changeTour, remove: api.removeTour },
      {
        save: useSaver.getState().save,
        onChange: (tours) => set({ tours }),
        onConflict: (conflict) => set({ conflicts: [...get().conflicts, conflict] }),
      },
    );
    const undoable = new UndoList((undoes) => set({ undoes }));
    const orTell = async (what: string, doing: Promise<void>): Promise<void> => {
      try {
        await doing;
      } catch (error) {
        useNotes.getState().tell('failed', `${what}: ${troubleOf(error).title}`);
      }
    };
    const add = ({ id, name, position, loops, stops }: KeepTourDto & { readonly id: string }): Promise<void> => {
      const body = { id, name, position, loops, stops };
      const item = { ...body, drawingId, version: 0, updatedAt: new Date().toISOString() };
      return orTell(`“${name}” isn’t kept`, list.add(item, body));
    };
    const change = ({ id, name }: TourDto, changed: TourChange): Promise<void> =>
      orTell(`“${name}” isn’t changed`, list.change(id, changed));
    return {
      tours: null,
      undoes: null,
      conflicts: [],
      async load() {
        await orTell(
          'The tours can’t be had',
          api.tours(drawingId).then((tours) => list.told(tours)),
        );
      },
      begin(name, cards) {
        const id = crypto.randomUUID();
        const position = (list.items.at(-1)?.position ?? 0) + 1;
        undoable.add('keeping', () => list.remove(id));
        void add({ id, name, position, loops: false, stops: cards.map((card) => stopAt(card.id)) });
        return id;
      },
      async change(id, changed, what) {
        const tour = list.find(id);
        if (!tour) return;
        const before = Object.fromEntries(
          Object.keys(changed).map((field) => [field, tour[field as keyof TourChange]]),
        ) as TourChange;
        undoable.add(what, () => change(tour, before));
        await change(tour, changed);
      },
      async remove(id) {
        const tour = list.find(id);
        if (!tour) return;
        undoable.add('delete', () => add(tour));
        await orTell(`“${tour.name}” isn’t deleted`, list.remove(id));
      },
      undo: () => undoable.undo(),
      async settle(id, takesMine) {
        const conflict = get().conflicts.find(({ theirs }) => theirs.id === id);
        if (!conflict) return;
        set({ conflicts: get().conflicts.filter((one) => one !== conflict) });
        if (takesMine) await change(conflict.theirs, conflict.mine);
      },
      heard: (tour) => list.heard(tour),
      heardGone: (id) => list.heardGone(id),
    };
  });
}
