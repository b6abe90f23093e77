import { createStore, type StoreApi } from 'zustand/vanilla';
import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import { numbersOfRanges, rangesOf } from '@gull-pane/core/drawing/ranges';
import { solidLooks, type SolidLook } from '@gull-pane/core/solid/solid-looks';
import type { CardClipDto, CardDto, CardShowsDto, KeepCardDto } from '@gull-pane/protocol/cards';
import { ApiError, api } from '../api/client';
import { cameraFromDto, cameraToDto } from './camera-dto';
import type { ClipsStore } from './clips-store';
import type { DrawingStore } from './drawing-store';
import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import type { PaneStore } from './pane-store';

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

/** What cards need from around them. */
export interface CardsSurroundings {
  readonly pane: PaneStore;
  readonly drawing: DrawingStore;
  readonly clips: ClipsStore;
  /** The pane's picture as a data address; empty if there is none. */
  readonly picture: () => string;
  /** What a view might be called. */
  readonly suggestName: () => Promise<string>;
}

/** Views of the drawing that are kept, by everybody on every machine that uses this server. */
export function createCardsStore({ pane, drawing, clips, picture, suggestName }: CardsSurroundings): CardsStore {
  const drawingId = (): string => drawing.getState().drawing.id;
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
      const { camera, viewport } = pane.getState();
      return {
        ...{ camera: cameraToDto(camera), widthPx: viewport.widthPx, heightPx: viewport.heightPx },
        ...{ shows: shownNow(pane, drawing, clips), picture: picture() },
      };
    };
    return {
      cards: null,
      current: null,
      deleted: [],
      async load() {
        try {
          set({ cards: await api.cards(drawingId()) });
        } catch (error) {
          useNotes.getState().tell('failed', `The views can’t be had: ${troubleOf(error).title}`);
        }
      },
      async keep() {
        const held = capture();
        try {
          const last = get().cards?.at(-1);
          const card = await api.keepCard(drawingId(), {
            ...{ ...held, name: await suggestName(), group: last?.group ?? '' },
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
        if (what !== 'camera') showAs(card.shows, pane, drawing, clips);
        if (what !== 'looks') pane.getState().travel((_, viewport) => fittingCamera(card, viewport));
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
            await api.keepCard(drawingId(), {
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
export function fittingCamera(card: Pick<KeepCardDto, 'camera' | 'widthPx' | 'heightPx'>, viewport: Viewport): Camera {
  const camera = cameraFromDto(card.camera);
  const { widthPx, heightPx } = viewport;
  if (widthPx === card.widthPx && heightPx === card.heightPx) return camera;
  const factor = Math.max(card.widthPx / Math.max(widthPx, 1), card.heightPx / Math.max(heightPx, 1));
  return { ...camera, unitsPerPx: camera.unitsPerPx * factor };
}

const clipDto = ({ name, kind, keeps, isOn, centre, half, orientation: q }: ClipVolume): CardClipDto => ({
  ...{ name, kind, keeps, isOn, centre, half },
  ...{ qx: q.x, qy: q.y, qz: q.z, qw: q.w },
});

export function shownNow(pane: PaneStore, drawing: DrawingStore, clips: ClipsStore): CardShowsDto {
  const { drawing: dto, layers, hidden, hiddenObjects } = drawing.getState();
  return {
    ...(dto.kind === 'solid' ? { look: pane.getState().look } : {}),
    hiddenLayers: layers.filter(({ id }) => hidden.has(id)).map(({ name }) => name),
    hiddenObjects: hiddenObjects ? rangesOf(dto.counts.objects, (object) => hiddenObjects.has(object)) : '',
    revision: dto.revision,
    clips: clips.getState().volumes.map(clipDto),
  };
}

const isLook = (look: string | undefined): look is SolidLook => solidLooks.some((one) => one === look);

function showAs(shows: CardShowsDto, pane: PaneStore, drawing: DrawingStore, clips: ClipsStore): void {
  const own = drawing.getState();
  const { layers } = own;
  const isHidden = new Set(shows.hiddenLayers);
  const ids = (wanted: boolean): number[] =>
    layers.filter(({ name }) => isHidden.has(name) === wanted).map(({ id }) => id);
  own.setLayersVisible(ids(false), true);
  own.setLayersVisible(ids(true), false);
  own.showAllObjects();
  // the objects of another import are others
  if (shows.revision === own.drawing.revision && shows.hiddenObjects !== '')
    own.hideObjects(numbersOfRanges(shows.hiddenObjects, own.drawing.counts.objects));
  if (isLook(shows.look)) pane.getState().setLook(shows.look);
  clips
    .getState()
    .replace(
      shows.clips.map(({ qx, qy, qz, qw, ...clip }) => ({ ...clip, orientation: { x: qx, y: qy, z: qz, w: qw } })),
    );
}

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
  if (JSON.stringify(card.shows.clips) !== JSON.stringify(now.clips)) told.push('clips');
  return told;
}
