import { panesOf } from '@gull-pane/core/panes/tiling';
import { followed, sharesGrid } from '@gull-pane/core/panes/tie';
import type { ArrangedDto } from '@gull-pane/protocol/arrangements';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { ActionTarget } from '../actions/action';
import { api } from '../api/client';
import { PaneHands } from '../input/pane-hands';
import type { CardsState } from '../store/cards-store';
import { findSnaps } from '../snapping/find-snaps';
import type { MarksState } from '../store/marks-store';
import type { ToursState } from '../store/tours-store';
import type { ComparisonState } from '../store/comparison-store';
import type { DrawingContent } from '../store/drawing-store';
import { createPanesStore, type PanesStore } from '../store/panes-store';
import { trailFromDto } from '../store/keep-trail';
import { troubleOf } from '../store/drawings-store';
import { useNotes } from '../store/notes-store';
import { createToolStore } from '../store/tool-store';
import { createUiStore } from '../store/ui-store';
import type { ApartPanes } from './apart';
import { arrangedNow, arrangedPane, dressAs, startOf, withoutPanes } from './arranged';
import { echoCursor } from './echo-cursor';
import { TieFollower, destinationOf, tiedView } from './follow-ties';
import { linkedNow, shortLink } from './link';
import type { OpenDrawing } from './open-drawing';
import { OpenedDrawings } from './opened-drawings';
import type { Laying } from './plan-and-model';
import { createPaneTarget, shownInNewPane, type PaneStart } from './pane-target';

/** A pane that is open. */
interface OpenPane {
  readonly target: ActionTarget;
  readonly hands: PaneHands;
  readonly open: OpenDrawing;
  readonly serial: number;
  readonly stop: () => void;
}

/** Everything that is open in a window: drawings, their panes, how these lie. */
export interface Session {
  readonly panes: PanesStore;
  readonly targetOf: (pane: string) => ActionTarget;
  readonly handsOf: (pane: string) => PaneHands;
  readonly openOf: (pane: string) => OpenDrawing;
  /** Another one whenever a pane is another in all but its name. */
  readonly serialOf: (pane: string) => number;
  /** Contents that are there already needn't be fetched. */
  readonly contentOf: (drawingId: string) => DrawingContent | undefined;
  /** The views of a drawing, while it is open. */
  readonly cardsOf: (drawingId: string) => CardsState | undefined;
  readonly marksOf: (drawingId: string) => MarksState | undefined;
  readonly toursOf: (drawingId: string) => ToursState | undefined;
  readonly comparisonOf: (drawingId: string) => ComparisonState | undefined;
  readonly reloadCards: () => void;
  /** Another window has changed what a drawing is called, or where its home is. */
  readonly heardDrawing: (drawing: DrawingDto) => void;
  readonly addContents: (contents: readonly DrawingContent[]) => void;
  /** Gets another drawing and shows it in a pane; a note tells if it can't be loaded. */
  readonly openIn: (pane: string, drawingId: string) => Promise<void>;
  readonly arranged: () => ArrangedDto;
  /** All panes become those of an arrangement; drawings that aren't open are fetched, those that are gone left out. */
  readonly take: (arranged: ArrangedDto) => Promise<void>;
  /** The same, of drawings whose contents are there. */
  readonly arrange: (arranged: ArrangedDto) => void;
  /** Panes in windows of their own come back, as when the page is left. */
  readonly takeAllBack: () => void;
  readonly close: () => void;
}

/**
 * @param first what the first pane shows
 * @param isApart whether this is the window of one pane of another window's arrangement
 */
export function createSession(first: DrawingContent, start: PaneStart, isApart = false): Session {
  const open = new Map<string, OpenPane>();
  let lastSerial = 0;
  const tools = createToolStore();
  const ui = createUiStore();

  const targetOf = (pane: string): ActionTarget => {
    const own = open.get(pane);
    if (!own) throw new RangeError(`session: there is no pane ${pane}`);
    return own.target;
  };
  const drawings = new OpenedDrawings((pane) => targetOf(pane ?? panes.getState().active));
  drawings.add(first);
  const closeUnused = (): void => drawings.closeUnused();
  const drawingOf = (pane: string): string => targetOf(pane).drawing.getState().drawing.id;

  const sharesPlace = (one: string, other: string): boolean => {
    const [a, b] = [one, other].map((pane) => targetOf(pane).drawing.getState().drawing) as [DrawingDto, DrawingDto];
    return a.id === b.id || sharesGrid(gridOf(a), gridOf(b));
  };

  const panes = createPanesStore('1', {
    add(pane, like) {
      const model = targetOf(like);
      const camera = destinationOf(model);
      const content = drawings.contentOf(drawingOf(like))!;
      addPane(pane, content, { camera, shown: model.pane.getState().shown });
      dressAs(targetOf(pane), arrangedPane(pane, model));
    },
    drop: (pane) => dropPane(pane),
    fitAll() {
      for (const { target } of open.values()) target.pane.getState().fitAll();
    },
    async planAndModel() {
      const { layPlanAndModel } = await import('./plan-and-model');
      await layPlanAndModel(laying());
    },
    async beforeAndAfter(from, to) {
      const { layBeforeAndAfter } = await import('./before-and-after');
      await layBeforeAndAfter(laying(), from, to);
    },
    openIn: (pane, drawing) => openIn(pane, drawing),
    async planWithElevations() {
      const { layPlanWithElevations } = await import('./plan-with-elevations');
      layPlanWithElevations({
        panes,
        targetOf,
        addPane,
        removePane,
        closeUnused,
        contentOf: (pane) => drawings.contentOf(drawingOf(pane))!,
      });
    },
    openApart: (pane) => void openApart(pane),
    async copyLink() {
      try {
        const { id } = await api.keepLink(linkedNow({ arranged, contentOf: (drawing) => drawings.contentOf(drawing) }));
        await navigator.clipboard.writeText(shortLink(id));
        useNotes.getState().tell('done', 'The link is copied');
      } catch (error) {
        useNotes.getState().tell('failed', `The link isn’t copied: ${troubleOf(error).title}`);
      }
    },
    copyView(from, to) {
      const [source, copy] = [targetOf(from), targetOf(to)];
      if (drawingOf(from) === drawingOf(to)) {
        copy.pane.getState().goToView({ camera: destinationOf(source), shown: source.pane.getState().shown });
        return;
      }
      const holds = { place: sharesPlace(from, to), scale: true, direction: 'same' } as const;
      const own = copy.pane.getState();
      const leader = { ...tiedView(source), camera: destinationOf(source) };
      own.travel((camera) => followed(leader, { ...tiedView(copy), camera }, holds, own.limits));
    },
    sharesPlace: (one, other) => sharesPlace(one, other),
    follow: (tie) => ties.begin(tie),
    capture: () => arranged(),
    restore: (captured, isWhole) => arrange(captured as ArrangedDto, isWhole),
  });
  const laying = (): Laying => ({
    panes,
    targetOf,
    drawingOf,
    fetched: (id) => drawings.fetched(id),
    addPane,
    removePane,
    closeUnused,
  });
  const openApart = async (pane: string): Promise<void> => {
    const { ApartPanes } = await import('./apart');
    apart ??= new ApartPanes(panes, (each) => open.get(each)?.target);
    if (!apart.open(pane))
      useNotes.getState().tell('failed', 'The browser keeps windows from opening: allow them for this page.');
  };
  const ties = new TieFollower(panes, (pane) => open.get(pane)?.target);
  /** From the first pane that goes into a window of its own. */
  let apart: ApartPanes | null = null;

  const addPane = (pane: string, content: DrawingContent, own: PaneStart): void => {
    const drawing = drawings.open(content);
    const { target, watch } = createPaneTarget(pane, drawing, { panes, tools, ui }, own);
    drawings.shownBy(content.drawing.id, pane);
    const stops: (() => void)[] = [];
    open.set(pane, {
      target,
      hands: new PaneHands(target, (at) => findSnaps(target, drawing.features, at)),
      open: drawing,
      serial: ++lastSerial,
      stop: () => {
        for (const stop of stops) stop();
      },
    });
    stops.push(watch(), ties.watch(pane));
    const isAlone = (): boolean =>
      !isApart && panesOf(panes.getState().tiling).length + panes.getState().apart.length < 2;
    stops.push(echoCursor(target, isAlone));
    void target.groundPlan.getState().look();
  };
  const removePane = (pane: string): void => {
    const own = open.get(pane);
    if (!own) return;
    own.stop();
    open.delete(pane);
    const { id } = own.open.content.drawing;
    const other = [...open.entries()].find(([, { open: drawing }]) => drawing === own.open);
    drawings.shownBy(id, other?.[0] ?? null);
  };
  const dropPane = (pane: string): void => {
    removePane(pane);
    drawings.closeUnused();
  };

  const arranged = (): ArrangedDto => arrangedNow(panes.getState(), (pane) => open.get(pane)?.target);
  /** @param isWhole whether panes that are there already become as they were, too */
  const arrange = (wanted: ArrangedDto, isWhole: boolean): void => {
    const stays = (pane: string): boolean =>
      !isWhole && wanted.panes.some((one) => one.pane === pane && open.has(pane) && one.drawingId === drawingOf(pane));
    const staying = new Set([...open.keys()].filter(stays));
    for (const pane of open.keys()) if (!staying.has(pane) && !panes.getState().apart.includes(pane)) removePane(pane);
    for (const one of wanted.panes) {
      if (staying.has(one.pane)) continue;
      const content = drawings.contentOf(one.drawingId);
      if (!content) throw new RangeError('session: a drawing of the arrangement isn’t there');
      addPane(one.pane, content, startOf(one, content));
      dressAs(targetOf(one.pane), one);
    }
    drawings.closeUnused();
    panes.getState().take(wanted);
  };

  const openIn = async (pane: string, drawingId: string): Promise<void> => {
    const content = await drawings.fetched(drawingId);
    if (!content || !open.has(pane)) return;
    panes.getState().remember(true);
    removePane(pane);
    const trail = trailFromDto(content.trail, content, shownInNewPane(content));
    addPane(pane, content, trail ? { trail } : {});
    drawings.closeUnused();
    panes.getState().renew();
  };
  addPane('1', first, start);
  panes.subscribe(({ active }, before) => {
    if (active === before.active || !open.has(active)) return;
    drawings.shownBy(drawingOf(active), active);
    const [now, then] = [targetOf(active), open.get(before.active)?.target];
    const [a, b] = [now.drawing.getState().drawing, then?.drawing.getState().drawing];
    // points of another place mean nothing here
    if (b && a.id !== b.id && !sharesGrid(gridOf(a), gridOf(b))) tools.getState().forgetPoints();
  });
  return {
    panes,
    targetOf,
    handsOf: (pane) => open.get(pane)!.hands,
    openOf: (pane) => open.get(pane)!.open,
    contentOf: (id) => drawings.contentOf(id),
    cardsOf: (id) => drawings.get(id)?.cards.getState(),
    marksOf: (id) => drawings.get(id)?.marks.getState(),
    toursOf: (id) => drawings.get(id)?.tours.getState(),
    comparisonOf: (id) => drawings.get(id)?.comparison.getState(),
    reloadCards: () => drawings.reload(),
    heardDrawing: (drawing) => drawings.heard(drawing),
    addContents(more) {
      for (const content of more) drawings.add(content);
    },
    openIn,
    serialOf: (pane) => open.get(pane)!.serial,
    arranged,
    async take(wanted) {
      const there = new Set<string>();
      for (const id of new Set(wanted.panes.map(({ drawingId }) => drawingId)))
        if (await drawings.fetched(id)) there.add(id);
      const left = withoutPanes(wanted, (id) => there.has(id));
      if (!left) return;
      panes.getState().remember(true);
      arrange(left, true);
    },
    arrange: (wanted) => arrange(wanted, true),
    takeAllBack: () => apart?.takeAllBack(),
    close() {
      apart?.close();
      for (const pane of open.keys()) dropPane(pane);
    },
  };
}

const gridOf = ({ unit, extents }: DrawingContent['drawing']) => ({ unit, extents: extents ?? null });
