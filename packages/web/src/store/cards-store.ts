import { createStore, type StoreApi } from 'zustand/vanilla';
import { inOtherSize } from '@gull-pane/core/camera/other-size';
import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import type { Shown } from '@gull-pane/core/view/shown';
import { restore, type View, type ViewPart } from '@gull-pane/core/view/view';
import type { CardDto, ChangeCardDto, KeepCardDto } from '@gull-pane/protocol/cards';
import { api } from '../api/client';
import { cameraFromDto, cameraToDto } from '../wire/camera-dto';
import { keptList, type KeptState } from './kept-list';
import { useNotes } from './notes-store';
import type { PaneParts } from './pane-parts';
import { shownFromDto, shownToDto, type NamedContent } from '../wire/view-dto';
import { positionBefore } from './versioned-list';

/** What of a card can be changed. */
export type CardChange = Omit<ChangeCardDto, 'version'>;

export interface CardsState extends KeptState<CardDto, CardChange> {
  /** In their order; null until the server has told. */
  readonly cards: readonly CardDto[] | null;
  /** The card that was kept or gone to last. */
  readonly current: string | null;
  /** By card and version, whether what lay in its frame has changed since it was kept; looked up once it is asked for. */
  readonly changed: ReadonlyMap<string, boolean>;
  readonly load: () => Promise<void>;
  /** Looks whether what lay in a card's frame has changed. */
  readonly compare: (id: string) => Promise<void>;
  /** Keeps the view as it is. */
  readonly keep: () => Promise<void>;
  /**
   * Keeps views that came from a file, after those that there are.
   * @param known what becomes of those that are here already: they are brought up to date, left alone, kept once more
   */
  readonly keepAll: (views: readonly TakenView[], known: OfKnown) => Promise<void>;
  readonly restore: (id: string, part: ViewPart) => void;
  /** The card becomes the view as it is. */
  readonly update: (id: string) => Promise<void>;
  readonly change: (id: string, change: { readonly name?: string; readonly group?: string }) => Promise<void>;
  /** Before another card, or to the end with null. */
  readonly move: (id: string, before: string | null) => Promise<void>;
  readonly remove: (id: string) => Promise<void>;
}
export type CardsStore = StoreApi<CardsState>;

/** What becomes of views that are here already when they are read in again. */
export type OfKnown = 'update' | 'skip' | 'copy';

/** The card that a view from a file is: the one of its name in its group. */
export const cardLike = (
  { name, group }: Pick<TakenView, 'name' | 'group'>,
  cards: readonly CardDto[],
): CardDto | undefined => cards.find((card) => card.name === name && card.group === group);

/** A view that came from a file. */
export type TakenView = Pick<
  KeepCardDto,
  'name' | 'group' | 'camera' | 'widthPx' | 'heightPx' | 'shows' | 'picture' | 'comments'
>;

/** The pane whose views are kept now. */
export interface KeepingPane extends PaneParts {
  /** What its view might be called. */
  readonly suggestName: () => Promise<string>;
  /** What lies in the frame of a view, as one number; null if that isn't known. */
  readonly contentOf: (camera: Camera, viewport: Viewport) => Promise<string | null>;
}

/**
 * Views of a drawing that are kept, by everybody on every machine that uses this server.
 * @param shown the pane of the drawing that was active last
 */
export function createCardsStore(drawingId: string, shown: () => KeepingPane): CardsStore {
  return createStore<CardsState>((set, get) => {
    const { list, state, undoable, add, change, remove, orTell } = keptList<CardDto, KeepCardDto, CardChange>(
      {
        keep: (card) => api.keepCard(drawingId, card),
        change: api.changeCard,
        remove: api.removeCard,
      },
      (cards) => set({ cards }),
      set,
    );
    const capture = async (): Promise<Pick<KeepCardDto, 'camera' | 'widthPx' | 'heightPx' | 'shows' | 'picture'>> => {
      const { pane, drawing, seen, contentOf } = shown();
      const { camera, viewport, shown: now } = pane.getState();
      const [shows, picture] = [shownToDto(now, drawing.getState()), seen.picture?.() ?? ''];
      const content = await contentOf(camera, viewport).catch(() => null);
      return {
        camera: cameraToDto(camera),
        widthPx: viewport.widthPx,
        heightPx: viewport.heightPx,
        picture,
        shows: content === null ? shows : { ...shows, content },
      };
    };
    const keep = (card: CardDto): Promise<void> => {
      const { id, name, group, camera, position, widthPx, heightPx, shows, picture, comments } = card;
      return add(card, {
        id,
        name,
        group,
        camera,
        position,
        widthPx,
        heightPx,
        shows,
        picture,
        ...(comments ? { comments } : {}),
      });
    };
    return {
      ...state,
      cards: null,
      current: null,
      changed: new Map(),
      async compare(id) {
        const card = list.find(id);
        if (card?.shows.content === undefined || get().changed.has(keyOfVersion(card))) return;
        try {
          const content = await shown().contentOf(cameraFromDto(card.camera), card);
          set({ changed: new Map(get().changed).set(keyOfVersion(card), content !== card.shows.content) });
        } catch {
          // it isn't told then
        }
      },
      async load() {
        await orTell(
          'The views can’t be had',
          api.cards(drawingId).then((cards) => list.told(cards)),
        );
      },
      async keep() {
        const held = capture();
        const name = await shown().suggestName();
        const last = get().cards?.at(-1);
        const card: CardDto = {
          ...(await held),
          id: crypto.randomUUID(),
          drawingId,
          name,
          group: last?.group ?? '',
          position: (last?.position ?? 0) + 1,
          version: 0,
          updatedAt: new Date().toISOString(),
        };
        set({ current: card.id });
        useNotes.getState().tell('done', `Kept as “${name}”`);
        undoable('save', () => list.remove(card.id));
        await keep(card);
      },
      async keepAll(views, known) {
        const there = get().cards ?? [];
        const isNew = (view: TakenView): boolean => known === 'copy' || !cardLike(view, there);
        const renewed =
          known === 'update'
            ? views.flatMap((view) => {
                const card = cardLike(view, there);
                return card ? [{ card, view }] : [];
              })
            : [];
        const last = there.at(-1)?.position ?? 0;
        const updatedAt = new Date().toISOString();
        const kept = views.filter(isNew).map((view, k): CardDto => ({
          ...view,
          id: crypto.randomUUID(),
          drawingId,
          position: last + 1 + k,
          version: 0,
          updatedAt,
        }));
        const before = await Promise.all(
          renewed.map(async ({ card }) => ({ card, was: { ...contentOfView(card), picture: await pictureOf(card) } })),
        );
        undoable('reading in', async () => {
          await Promise.all(kept.map(({ id }) => list.remove(id)));
          await Promise.all(before.map(({ card, was }) => change(card, was)));
        });
        await Promise.all(renewed.map(({ card, view }) => change(card, contentOfView(view))));
        await Promise.all(kept.map(keep));
      },
      restore(id, part) {
        const card = list.find(id);
        if (!card) return;
        const { pane, drawing } = shown();
        const { camera, shown: now, viewport, goToView } = pane.getState();
        goToView(restore({ camera, shown: now }, viewOfCard(card, viewport, drawing.getState(), now), part));
        set({ current: id });
      },
      async update(id) {
        const card = list.find(id);
        if (!card) return;
        const { camera, widthPx, heightPx, shows } = card;
        const before = { camera, widthPx, heightPx, shows, picture: await pictureOf(card) };
        undoable('update', () => change(card, before));
        useNotes.getState().tell('done', `“${card.name}” is the view as it is now`);
        await change(card, await capture());
      },
      async change(id, changed) {
        const card = list.find(id);
        if (!card) return;
        const { name, group } = card;
        undoable('name' in changed ? 'rename' : 'group', () => change(card, 'name' in changed ? { name } : { group }));
        await change(card, changed);
      },
      async move(id, before) {
        const card = list.find(id);
        if (!card) return;
        const { position } = card;
        undoable('move', () => change(card, { position }));
        await change(card, { position: positionBefore(list.items, id, before) });
      },
      async remove(id) {
        const card = list.find(id);
        if (!card) return;
        const picture = pictureOf(card);
        undoable('delete', async () => keep({ ...card, picture: await picture, version: 0 }));
        await picture; // it can’t be had any more once the card is gone
        await remove(card);
      },
    };
  });
}

/** What of a view is brought up to date; a file without pictures leaves the one that there is. */
const contentOfView = ({ camera, widthPx, heightPx, shows, picture }: TakenView): CardChange => ({
  camera,
  widthPx,
  heightPx,
  shows,
  ...(picture.startsWith('data:') ? { picture } : {}),
});

/** Names a card as it was at one time. */
export const keyOfVersion = ({ id, version }: Pick<CardDto, 'id' | 'version'>): string => `${id} ${version}`;

/** A card's picture as a data address, wherever it is; empty if it can't be loaded. */
async function pictureOf({ picture }: Pick<CardDto, 'picture'>): Promise<string> {
  if (picture === '' || picture.startsWith('data:')) return picture;
  try {
    return await api.picture(picture);
  } catch {
    return '';
  }
}

/** The camera of a card in a pane: the very same in one of its size, in another one with all that was seen. */
export const fittingCamera = (card: Pick<KeepCardDto, 'camera' | 'widthPx' | 'heightPx'>, viewport: Viewport): Camera =>
  inOtherSize(cameraFromDto(card.camera), card, viewport);

/** The view of a card in a pane that shows its drawing like `now`. */
export const viewOfCard = (card: CardDto, viewport: Viewport, content: NamedContent, now: Shown): View => ({
  camera: fittingCamera(card, viewport),
  shown: shownFromDto(card.shows, content, now),
});
