import { createStore, type StoreApi } from 'zustand/vanilla';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { ChangeTourDto, KeepTourDto, StopDto, TourDto } from '@gull-pane/protocol/tours';
import { api } from '../api/client';
import { keptList, type KeptState } from './kept-list';

export type TourChange = Omit<ChangeTourDto, 'version'>;

export interface ToursState extends KeptState<TourDto, TourChange> {
  /** In their order; null until the server has told. */
  readonly tours: readonly TourDto[] | null;
  readonly load: () => Promise<void>;
  /** Keeps a new tour through cards. @returns its id */
  readonly begin: (name: string, cards: readonly Pick<CardDto, 'id'>[]) => string;
  /** @param what names the change for its undo */
  readonly change: (id: string, change: TourChange, what: string) => Promise<void>;
  readonly remove: (id: string) => Promise<void>;
}
export type ToursStore = StoreApi<ToursState>;

const USUAL_TRAVEL_MS = 3000;
const USUAL_STAY_MS = 2000;

/** A stop at a card as it is to begin with. */
export const stopAt = (cardId: string): StopDto => ({
  id: crypto.randomUUID(),
  cardId,
  caption: '',
  travelMs: USUAL_TRAVEL_MS,
  stayMs: USUAL_STAY_MS,
  easing: 'gentle',
  looksChange: 'midway',
  driftRadPerS: 0,
});

/** Tours through the views of a drawing, kept on the server for everybody. */
export function createToursStore(drawingId: string): ToursStore {
  return createStore<ToursState>((set) => {
    const { list, state, undoable, add, change, remove, orTell } = keptList<TourDto, KeepTourDto, TourChange>(
      { keep: (tour) => api.keepTour(drawingId, tour), change: api.changeTour, remove: api.removeTour },
      (tours) => set({ tours }),
      set,
    );
    const keep = ({ id, name, position, loops, stops }: KeepTourDto & { readonly id: string }): Promise<void> => {
      const body = { id, name, position, loops, stops };
      return add({ ...body, drawingId, version: 0, updatedAt: new Date().toISOString() }, body);
    };
    return {
      ...state,
      tours: null,
      async load() {
        await orTell(
          'The tours can’t be had',
          api.tours(drawingId).then((tours) => list.told(tours)),
        );
      },
      begin(name, cards) {
        const id = crypto.randomUUID();
        const position = (list.items.at(-1)?.position ?? 0) + 1;
        undoable('save', () => list.remove(id));
        void keep({ id, name, position, loops: false, stops: cards.map((card) => stopAt(card.id)) });
        return id;
      },
      async change(id, changed, what) {
        const tour = list.find(id);
        if (!tour) return;
        const before = Object.fromEntries(
          Object.keys(changed).map((field) => [field, tour[field as keyof TourChange]]),
        ) as TourChange;
        undoable(what, () => change(tour, before));
        await change(tour, changed);
      },
      async remove(id) {
        const tour = list.find(id);
        if (!tour) return;
        undoable('delete', () => keep(tour));
        await remove(tour);
      },
    };
  });
}
