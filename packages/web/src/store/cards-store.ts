import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import { fitView } from '@gull-pane/core/camera/fit-view';
import type { CardDto, CardShowsDto, KeepCardDto } from '@gull-pane/protocol/cards';
import { ApiError, api } from '../api/client';
import { cameraFromDto, cameraToDto } from './camera-dto';
import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import type { PaneParts } from './pane-parts';
import { showAs, shownNow } from './pane-shows';

/** What of a card comes back. */
export type Restores = 'all' | 'camera' | 'looks';

export interface CardsState {
  /** In their order; null until the server has told. */
  readonly cards: readonly CardDto[] | null;
  /** The card that was kept or gone to last. */
  readonly current: string | null;
  /** Cards that were deleted in this session, the last one last: they can be brought back. */
  readonly deleted: readonly CardDto[];
  readonly load: () => Promise<void>;
  /** Keeps the view as it is. */
  readonly keep: () => Promise<void>;
  readonly restore: (id: string, what: Restores) => void;
  /** The card becomes the view as it is. */
  readonly update: (id: string) => Promise<void>;
  readonly change: (id: string, change: { readonly name?: string; readonly group?: string }) => Promise<void>;
  /** Before another card, or to the end with null. */
  readonly move: (id: string, before: string | null) => Promise<void>;
  readonly remove: (id: string) => Promise<void>;
  readonly undoRemove: () => Promise<void>;
}
export type CardsStore = StoreApi<CardsState>;

/** The pane whose views are kept now. */
export interface KeepingPane extends PaneParts {
  /** What its view might be called. */
  readonly suggestName: () => Promise<string>;
}

/**
 * Views of a drawing that are kept, by everybody on every machine that uses this server.
 * @param shown the pane of the drawing that was active last
 */
export function createCardsStore(drawingId: string, shown: () => KeepingPane): CardsStore {
  return createStore<CardsState>((set, get) => {
    const cardOf = (id: string): CardDto | undefined => get().cards?.find((card) => card.id === id);
    const put = (card: CardDto): void => {
      const others = (get().cards ?? []).filter(({ id }) => id !== card.id);
      set({ cards: [...others, card].sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1)) });
    };
    const fail = async (what: string, error: unknown): Promise<void> => {
      useNotes.getState().tell('failed', `${what}: ${troubleOf(error).title}`);
      // somebody else was faster, or deleted it: what there is now is shown
      if (error instanceof ApiError && (error.status === 409 || error.status === 404)) await get().load();
    };
    const capture = (): Pick<KeepCardDto, 'camera' | 'widthPx' | 'heightPx' | 'shows' | 'picture'> => {
      const { camera, viewport } = shown().pane.getState();
      return {
        ...{ camera: cameraToDto(camera), widthPx: viewport.widthPx, heightPx: viewport.heightPx },
        ...{ shows: shownNow(shown()), picture: shown().seen.picture?.() ?? '' },
      };
    };
    return {
      cards: null,
      current: null,
      deleted: [],
      async load() {
        try {
          set({ cards: await api.cards(drawingId) });
        } catch (error) {
          useNotes.getState().tell('failed', `The views can’t be had: ${troubleOf(error).title}`);
        }
      },
      async keep() {
        const held = capture();
        try {
          const last = get().cards?.at(-1);
          const card = await api.keepCard(drawingId, {
            ...{ ...held, name: await shown().suggestName(), group: last?.group ?? '' },
            position: (last?.position ?? 0) + 1,
          });
          put(card);
          set({ current: card.id });
          useNotes.getState().tell('done', `Kept as “${card.name}”`);
        } catch (error) {
          await fail('The view isn’t kept', error);
        }
      },
      restore(id, what) {
        const card = cardOf(id);
        if (!card) return;
        if (what !== 'camera') showAs(card.shows, shown());
        if (what !== 'looks')
          shown()
            .pane.getState()
            .travel((_, viewport) => fittingCamera(card, viewport));
        set({ current: id });
      },
      async update(id) {
        const card = cardOf(id);
        if (!card) return;
        try {
          put(await api.changeCard(id, { version: card.version, ...capture() }));
          useNotes.getState().tell('done', `“${card.name}” is the view as it is now`);
        } catch (error) {
          await fail(`“${card.name}” isn’t changed`, error);
        }
      },
      async change(id, change) {
        const card = cardOf(id);
        if (!card) return;
        try {
          put(await api.changeCard(id, { version: card.version, ...change }));
        } catch (error) {
          await fail(`“${card.name}” isn’t changed`, error);
        }
      },
      async move(id, before) {
        const card = cardOf(id);
        const others = (get().cards ?? []).filter((one) => one.id !== id);
        if (!card) return;
        const found = before === null ? -1 : others.findIndex((one) => one.id === before);
        const at = found < 0 ? others.length : found;
        const [low, high] = [others[at - 1]?.position, others[at]?.position];
        const position = low === undefined ? (high ?? 1) - 1 : high === undefined ? low + 1 : low + (high - low) / 2;
        put({ ...card, position });
        try {
          put(await api.changeCard(id, { version: card.version, position }));
        } catch (error) {
          put(card);
          await fail(`“${card.name}” isn’t moved`, error);
        }
      },
      async remove(id) {
        const card = cardOf(id);
        if (!card) return;
        try {
          await api.removeCard(id);
          set({ cards: (get().cards ?? []).filter((one) => one.id !== id), deleted: [...get().deleted, card] });
        } catch (error) {
          await fail(`“${card.name}” isn’t deleted`, error);
        }
      },
      async undoRemove() {
        const card = get().deleted.at(-1);
        if (!card) return;
        try {
          const { id, name, group, camera, position, widthPx, heightPx, shows, picture: own } = card;
          put(
            await api.keepCard(drawingId, {
              ...{ id, name, group, camera, position, widthPx, heightPx, shows, picture: own },
            }),
          );
          set({ deleted: get().deleted.slice(0, -1) });
        } catch (error) {
          await fail(`“${card.name}” can’t be brought back`, error);
        }
      },
    };
  });
}

/** The camera of a card in a pane: the very same in one of its size, in another one with all that was seen. */
export const fittingCamera = (card: Pick<KeepCardDto, 'camera' | 'widthPx' | 'heightPx'>, viewport: Viewport): Camera =>
  fitView(cameraFromDto(card.camera), card, viewport);

/** In words, what restoring a card would change. */
export function differences(card: CardDto, camera: Camera, viewport: Viewport, now: CardShowsDto): string[] {
  const then = fittingCamera(card, viewport);
  const told: string[] = [];
  const apart = Math.hypot(
    then.target.x - camera.target.x,
    then.target.y - camera.target.y,
    then.target.z - camera.target.z,
  );
  if (apart > 2 * Math.max(then.unitsPerPx, camera.unitsPerPx)) told.push('another place');
  if (Math.abs(then.unitsPerPx / camera.unitsPerPx - 1) > 0.005)
    told.push(then.unitsPerPx < camera.unitsPerPx ? 'closer' : 'farther');
  const [p, q] = [then.orientation, camera.orientation];
  if (Math.abs(p.x * q.x + p.y * q.y + p.z * q.z + p.w * q.w) < 1 - 1e-6) told.push('another direction');
  if (then.projection !== camera.projection) told.push(`in ${then.projection}`);
  if (card.shows.look !== undefined && card.shows.look !== now.look) told.push('another look');
  const [kept, shown] = [new Set(card.shows.hiddenLayers), new Set(now.hiddenLayers)];
  const layers =
    [...kept].filter((name) => !shown.has(name)).length + [...shown].filter((name) => !kept.has(name)).length;
  if (layers > 0) told.push(layers === 1 ? '1 layer' : `${layers} layers`);
  if (card.shows.hiddenObjects !== now.hiddenObjects && card.shows.revision === now.revision)
    told.push('hidden objects');
  if ((card.shows.kindsOff ?? []).join() !== (now.kindsOff ?? []).join()) told.push('kinds of things');
  if (JSON.stringify(card.shows.clips) !== JSON.stringify(now.clips)) told.push('clips');
  return told;
}
