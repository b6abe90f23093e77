import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import { scaleLimitsFor } from '@gull-pane/core/camera/limits';
import type { Mark } from '@gull-pane/core/marks/mark';
import { emptyBox, middleOfBoxes, type Box3 } from '@gull-pane/core/geometry/box';
import { boxAround, regionOfPane } from '@gull-pane/core/pick/region';
import { supportOfVisible } from '@gull-pane/core/spatial/support';
import type { Trail } from '@gull-pane/core/trail/trail';
import { hidesOther, isMarkShown, shownAtFirst, type Shown } from '@gull-pane/core/view/shown';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { api } from '../api/client';
import type { ActionTarget, Parts } from '../actions/action';
import { reachOf } from '../marks/mark-features';
import { PickClient } from '../picking/pick-client';
import type { Answers } from '../picking/pick-questions';
import { solidParts } from './solid-parts';
import { createAreasStore } from '../store/areas-store';
import { createClipsStore } from '../store/clips-store';
import { offLayers, type DrawingContent, type DrawingStore } from '../store/drawing-store';
import { createFindStore } from '../store/find-store';
import { createGroundPlanStore, keptPlanOf } from '../store/ground-plan-store';
import type { PaneSight } from '../store/pane-parts';
import { shownFromDto } from '../wire/view-dto';
import { createPaneStore } from '../store/pane-store';
import type { PanesStore } from '../store/panes-store';
import { createPickStore } from '../store/pick-store';
import { unitsOfScreenPx } from '../words/figure-style';
import { coveredByDial } from '../store/dial';
import { usePreferences } from '../store/preferences-store';
import { createSightStore } from '../store/sight-store';
import { createSixAxisStore } from '../store/six-axis-store';
import { createNoStance } from '../store/stance-store';
import type { ToolStore } from '../store/tool-store';
import { createTourPlayer } from '../store/tour-player';
import type { UiStore } from '../store/ui-store';
import { viewName } from '../store/view-name';
import type { OpenDrawing } from './open-drawing';
import { waysThatSee } from './raise-ways';

/** What a pane begins with. */
export interface PaneStart {
  readonly camera?: Camera;
  /** The size of the pane that the camera was taken in. */
  readonly size?: Viewport;
  readonly trail?: Trail;
  /** How the drawing is shown; as a new pane shows it if absent. */
  readonly shown?: Shown;
}

/** What all panes have in common. */
export interface Common {
  readonly panes: PanesStore;
  readonly tools: ToolStore;
  readonly ui: UiStore;
}

/** What a pane of a drawing is, with all its stores. The watch over what it sees begins with `open`, which returns its end. */
export function createPaneTarget(
  id: string,
  open: OpenDrawing,
  { panes, tools, ui }: Common,
  start: PaneStart,
): { readonly target: ActionTarget; readonly watch: () => () => void } {
  const { content, found, cards, tours, marks } = open;
  const { solid } = content;
  const { drawing } = open;
  const seen: PaneSight = { surface: null, picture: null, startFrames: null, canvases: [] };
  /** x, y, z triples around what is shown, known while that isn't whole layers. */
  let shownSupport: ArrayLike<number> | null = null;
  const shownMarks = (): readonly Mark[] =>
    marks.getState().marks.filter((mark) => isMarkShown(pane.getState().shown, mark));
  const around = (own: readonly Mark[]): ArrayLike<number> =>
    supportOf(drawing, pane.getState().shown.hiddenLayers, shownSupport, own);
  const pane = createPaneStore(id, {
    limits: scaleLimitsFor(content.drawing.extents ?? placeToBegin(content.drawing)),
    support: () => around(shownMarks()),
    now: () => performance.now(),
    prefersStill: () => matchMedia('(prefers-reduced-motion: reduce)').matches,
    glides: () => usePreferences.getState().glides,
    ...(solid
      ? {
          solid: {
            surfaceAt: (camera, viewport, at) => seen.surface?.hit(camera, viewport, at)?.point ?? null,
            middleOfPicked: () => {
              const { picked } = open.picked.getState();
              return picked.size > 0 ? middleOfBoxes(solid.boxes, picked) : null;
            },
            covered: (state, viewport) =>
              panes.getState().active === id ? coveredByDial(state, viewport, { tools, picked: open.picked }) : null,
          },
        }
      : {}),
    shown: start.shown ?? shownInNewPane(content),
    ...(start.camera ? { initial: start.camera } : {}),
    ...(start.size ? { initialSize: start.size } : {}),
    ...(start.trail ? { trail: start.trail } : {}),
  });
  const asked: Answers = solid
    ? new (solidParts().SolidAnswers)(solid, {
        view: () => pane.getState(),
        surface: () => seen.surface,
        shown: () => {
          const { hiddenLayers, hiddenObjects, clips } = pane.getState().shown;
          return { hiddenLayers, mask: hiddenObjects, clips };
        },
        exact: (object) => exactCoordinates(drawing.getState().drawing.id, object),
      })
    : new PickClient(open.picking);
  const searching = new PickClient(open.searching);
  const hide = ({ hiddenLayers, hiddenObjects }: Shown): void => {
    for (const each of [asked, searching]) each.hide([...hiddenLayers], hiddenObjects?.bytes ?? null);
  };
  /** Fits look at what is shown: its hull has to be asked for where that isn't whole layers. */
  const lookAgain = ({ hiddenObjects, clips: volumes }: Shown): void => {
    const isPart = hiddenObjects !== null || volumes.some(({ isOn }) => isOn);
    if (isPart) asked.askLatest('shown', null, (support) => (shownSupport = support));
    else shownSupport = null;
  };
  hide(pane.getState().shown);
  lookAgain(pane.getState().shown);
  pane.subscribe(({ shown }, { shown: before }) => {
    if (hidesOther(shown, before)) hide(shown);
    if (hidesOther(shown, before) || shown.clips !== before.clips) lookAgain(shown);
  });
  const picks = createPickStore(asked, pane, open.picked);
  const { sight, watch } = createSightStore(pane, drawing, picks, asked, () => shownMarks().flatMap(reachOf));
  const clips = createClipsStore(pane, {
    picked: () => [...(seen.surface?.cornersOf(open.picked.getState().picked) ?? [])],
    all: () => around([]),
    faceAt: (at) => seen.surface?.hit(pane.getState().camera, pane.getState().viewport, at) ?? null,
    cornersOf: (object) => seen.surface?.cornersOf(new Set([object])) ?? [],
  });
  const player = createTourPlayer({
    pane,
    tours,
    cards,
    dress: ({ shows }) => pane.getState().update((shown) => shownFromDto(shows, drawing.getState(), shown), null),
    prefersStill: () => matchMedia('(prefers-reduced-motion: reduce)').matches,
    raise: waysThatSee(asked, () => pane.getState().viewport),
  });
  const target: ActionTarget = {
    pane,
    drawing,
    clips,
    seen,
    picks,
    picked: open.picked,
    asked,
    areas: createAreasStore(searching),
    sight,
    panes,
    tools,
    ui,
    cards,
    tours,
    marks,
    player,
    comparison: open.comparison,
    coverage: open.coverage,
    groundPlan: createGroundPlanStore(content.drawing, pane),
    sixAxis: createSixAxisStore(pane),
    stance: solid ? solidParts().createStanceStore({ pane, tools, world: () => seen.surface }) : createNoStance(),
    finds: createFindStore(found, pane, drawing, picks),
  };
  return {
    target,
    watch: () => {
      const ends = [watch(), player.getState().watch()];
      return () => {
        for (const end of ends) end();
      };
    },
  };
}

/** How a new pane shows a drawing: without the layers that the file has switched off, on the plan that was laid last. */
export const shownInNewPane = ({ layers, drawing }: DrawingContent): Shown =>
  shownAtFirst(offLayers(layers), keptPlanOf(drawing.id));

/** What a pane's view might be called: by what is in its middle. */
export async function suggestedName(
  { pane, drawing, seen }: Parts<'pane' | 'drawing' | 'seen'>,
  { found }: OpenDrawing,
): Promise<string> {
  const { camera, viewport } = pane.getState();
  const { solid, drawing: dto } = drawing.getState();
  const middle = { x: viewport.widthPx / 2, y: viewport.heightPx / 2 };
  let what: string | null = null;
  if (solid) {
    const object = seen.surface?.hit(camera, viewport, middle)?.object;
    what = object === undefined ? null : (solid.names[object] ?? null);
  } else {
    const reach = camera.unitsPerPx * Math.min(middle.x, middle.y);
    what = await found.nearestText(camera.target, reach).catch(() => null); // the view has a name without it, too
  }
  return viewName(dto.kind, camera, unitsOfScreenPx(drawing), what);
}

/** @returns null where they can't be had: a frame goes by the object's box then */
async function exactCoordinates(drawingId: string, object: number): Promise<readonly number[] | null> {
  const told = await api.object(drawingId, object).catch(() => null);
  return told?.solid?.parts.flatMap(({ positions }) => positions) ?? null;
}

/** What lies in the frame of a pane's view, as one number, whatever of it is shown. */
export async function contentOf(
  { drawing, asked }: Parts<'drawing' | 'asked'>,
  { found }: OpenDrawing,
  camera: Camera,
  viewport: Viewport,
): Promise<string> {
  const { solid, layers } = drawing.getState();
  const names = layers.map(({ name }) => name);
  if (solid) return solidParts().printOfSolid(solid, names, camera, viewport);
  const region = regionOfPane(camera, viewport);
  const prints = await Promise.all([asked.ask('print', { region, layers: names }), found.printOf(boxAround(region))]);
  return prints.join('/');
}

/** Where an empty drawing begins: so many grid lines to each side. */
const EMPTY_HALF = 50;
function placeToBegin({ begun }: DrawingDto): Box3 {
  if (!begun) return emptyBox;
  const half = EMPTY_HALF * (begun.gridStep || 1);
  return { min: { x: -half, y: -half, z: 0 }, max: { x: half, y: half, z: 0 } };
}

/** The points that a fit looks at: what the drawing shows and the marks on top; the place to begin where there is nothing. */
function supportOf(
  drawing: DrawingStore,
  hiddenLayers: ReadonlySet<number>,
  shownSupport: ArrayLike<number> | null,
  marks: readonly Mark[],
): ArrayLike<number> {
  const isKnown = shownSupport !== null && shownSupport.length > 0;
  const drawn = isKnown ? shownSupport : drawnSupport(drawing, hiddenLayers);
  const all = marks.length > 0 ? [...Array.from(drawn), ...marks.flatMap(reachOf)] : drawn;
  if (all.length > 0) return all;
  const { min, max } = placeToBegin(drawing.getState().drawing);
  return [min.x, min.y, 0, max.x, max.y, 0];
}

/** The points of the visible layers, or of all where none of them has any. */
function drawnSupport(drawing: DrawingStore, hidden: ReadonlySet<number>): ArrayLike<number> {
  const { layers } = drawing.getState();
  const supports = layers.map(({ id, support }) => ({ layer: id, points: support }));
  const visible = supportOfVisible(supports, (layer) => !hidden.has(layer));
  return visible.length > 0 ? visible : supportOfVisible(supports, () => true);
}
