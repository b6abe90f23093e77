import { USUAL_FOV_RAD, cameraAxes, eyeOf, widthWorld } from '@gull-pane/core/camera/camera';
import { scaleDenominator } from '@gull-pane/core/camera/scale';
import { branchPosition } from '@gull-pane/core/trail/trail';
import type { Parts } from '../actions/action';
import { reportPane } from '../inspect/inspection';
import { FrameMaker } from '../render/frame-maker';
import type { GroundSheet } from '../render/solid/ground-sheet';
import type { PaneView } from '../render/picture/pane-view';
import { isSolid, makeScene } from '../render/painters';
import type { Scene } from '../render/scene/scene';
import type { SolidScene } from '../render/solid/solid-scene';
import { Stage } from '../render/stage';
import type { OpenDrawing } from '../session/open-drawing';
import type { GroundPlan } from '../store/ground-plan-store';
import { watchCoverage } from '../store/coverage-store';
import { usePreferences } from '../store/preferences-store';
import { unitsOfScreenPx } from '../words/figure-style';
import { collectingNow, toolInHand } from '../store/tool-store';
import { groundOf, palettes } from '../theme/themes';

import { fadeBefore } from './fade-before';
import type { Pictured } from '../store/small-pictures';
import { THUMBNAIL, ThumbnailMaker } from '../trail/thumbnail-maker';
import { smallPicture, wholePicture } from './picture-of-canvases';

/** The picture of a view card, px. */
const CARD_PX = { width: 320, height: 200 } as const;

export interface ShownDrawing {
  readonly scene: Scene;
  /** Starts a maker of thumbnails of this pane's views; the caller disposes of it. */
  readonly startMaker: () => ThumbnailMaker;
  readonly stop: () => void;
}

/** All of a pane's view but its camera and its size. */
const shownBy = ({ pane }: Parts<'pane'>): Omit<PaneView, 'camera' | 'viewport'> => {
  const { look, kinds, hiddenLayers, clips, workPlane } = pane.getState().shown;
  return {
    look,
    kinds,
    hiddenLayers,
    clips,
    plane: workPlane.plane,
    smoothEdges: usePreferences.getState().smoothEdges === 'automatic',
    pointPx: usePreferences.getState().pointPx,
    sheet: null,
  };
};

/** Ties a pane's stores to its picture. */
export function showDrawing(
  surface: HTMLElement,
  lines: HTMLCanvasElement,
  letters: HTMLCanvasElement,
  target: Parts<
    | 'pane'
    | 'drawing'
    | 'seen'
    | 'asked'
    | 'coverage'
    | 'groundPlan'
    | 'marks'
    | 'panes'
    | 'picked'
    | 'picks'
    | 'sight'
    | 'tools'
  >,
  open: OpenDrawing,
): ShownDrawing {
  const { drawing, pane, groundPlan, seen } = target;
  const { id } = pane.getState();
  const scene = open.enterScene(id);
  const ground: { sheet: GroundSheet | null } = { sheet: null };
  let isOver = false;
  const stage = new Stage(
    lines,
    letters,
    {
      id,
      advance: () => pane.getState().advance(),
      view: () => {
        const { camera, viewport } = pane.getState();
        return { ...shownBy(target), camera, viewport, sheet: ground.sheet };
      },
    },
    scene,
  );
  const lay = (plan: GroundPlan | null): void => {
    ground.sheet?.dispose();
    ground.sheet = null;
    stage.redraw();
    if (plan) void layLater(plan);
  };
  const layLater = async (plan: GroundPlan): Promise<void> => {
    const { GroundSheet: Sheet } = await import('../render/solid/ground-sheet');
    if (isOver || ground.sheet || groundPlan.getState().plan !== plan) return; // another one was laid meanwhile
    ground.sheet = makeSheet(Sheet, id, plan, stage.redraw);
    stage.redraw();
  };
  const laid = groundPlan.subscribe(({ plan }, before) => {
    if (plan !== before.plan) lay(plan);
  });
  lay(groundPlan.getState().plan);
  const measure = (): void => {
    const { clientWidth, clientHeight } = surface;
    pane.getState().resize({ widthPx: clientWidth, heightPx: clientHeight });
    stage.resize(clientWidth, clientHeight, window.devicePixelRatio);
  };
  const observer = new ResizeObserver(measure);
  observer.observe(surface);
  measure();
  void document.fonts.ready.then(stage.redraw); // texts drawn before their letters had come
  seen.picture = () => smallPicture(CARD_PX, ...seen.canvases);
  seen.startFrames = (size) =>
    new FrameMaker(scene, id, size, () => ({ ...shownBy(target), smoothEdges: true, sheet: ground.sheet }));
  seen.canvases = [lines, letters, ...seen.canvases];
  const isCalm = (): boolean => stage.isSettled && !pane.getState().isFlying;
  /** Marks and picks belong to the view: its thumbnail is what the pane shows, all canvases over one another. */
  const own = ({ camera, shown }: Pictured): HTMLCanvasElement | null =>
    stage.isWhole && camera === pane.getState().camera && shown === pane.getState().shown
      ? wholePicture(THUMBNAIL, palettes[usePreferences.getState().theme].ground, seen.canvases)
      : null;
  const hide = (): void => scene.hideObjects(id, pane.getState().shown.hiddenObjects);
  hide();
  const stops = [
    watchCoverage(target, isCalm),
    ...(isSolid(scene) ? markObjects(scene, target) : []),
    laid,
    () => {
      seen.picture = null;
      seen.startFrames = null;
      seen.canvases = [];
    },
    () => {
      isOver = true;
      ground.sheet?.dispose();
    },
    scene.onChange(stage.wake),
    pane.subscribe(({ shown }, { shown: before }) => {
      if (shown.hiddenObjects !== before.hiddenObjects) hide();
      if (shown.workPlane !== before.workPlane) stage.redraw();
      stage.wake();
    }),
    usePreferences.subscribe(({ theme, smoothEdges, pointPx }, before) => {
      if (smoothEdges !== before.smoothEdges || pointPx !== before.pointPx) stage.redraw();
      if (theme === before.theme) return;
      scene.setGround(groundOf(theme));
      lay(groundPlan.getState().plan);
      open.pictures.forget();
      stage.wake();
    }),
    reportPane(id, () => {
      const { tools, picked, sight, panes } = target;
      return {
        ...inspectPane(surface, stage, target),
        active: panes.getState().active === id,
        drawingId: drawing.getState().drawing.id,
        cachedBytes: scene.cachedBytes,
        thumbnails: open.pictures.size,
        tool: collectingNow(tools.getState()) ?? toolInHand(tools.getState()),
        marks: target.marks.getState().marks.length,
        picked: picked.getState().picked.size,
        faded: isSolid(scene) ? scene.fadedIn(id) : 0,
        lost: sight.getState().isLost,
      };
    }),
  ];
  return {
    scene,
    startMaker: () => new ThumbnailMaker(scene, id, open.pictures, { isCalm, shown: () => shownBy(target), own }),
    stop: () => {
      for (const stop of stops) stop();
      observer.disconnect();
      stage.dispose();
      open.leaveScene(id);
    },
  };
}

/** Tells a solid's scene how the pane shows its objects. @returns what ends it */
function markObjects(
  scene: SolidScene,
  { pane, picks, picked: pickedStore, seen }: Parts<'pane' | 'seen' | 'picked' | 'picks'>,
): (() => void)[] {
  const { id } = pane.getState();
  seen.surface = scene.surface(id, () => pane.getState().shown.clips);
  const mark = (): void => {
    const { picked } = pickedStore.getState();
    const { hovered } = picks.getState();
    const { turnsAlone, pivot, shown } = pane.getState();
    const isAlone = turnsAlone && pivot !== null && picked.size > 0;
    const { faded } = fade;
    scene.mark(id, { hiddenLayers: shown.hiddenLayers, picked, hovered: hovered?.object ?? null, isAlone, faded });
  };
  const fade = fadeBefore(scene, { pane, picks, picked: pickedStore }, () => mark());
  mark();
  return [
    picks.subscribe(mark),
    pickedStore.subscribe(mark),
    fade.stop,
    () => {
      seen.surface = null;
    },
    pane.subscribe(({ pivot, turnsAlone, shown }, before) => {
      const turnsOther = (pivot === null) !== (before.pivot === null) || turnsAlone !== before.turnsAlone;
      if (turnsOther || shown.hiddenLayers !== before.shown.hiddenLayers) mark();
    }),
  ];
}

/** @param onChange called when more of the plan has come */
function makeSheet(
  Sheet: typeof GroundSheet,
  id: string,
  { drawing, tileset, hidden }: GroundPlan,
  onChange: () => void,
): GroundSheet {
  const scene = makeScene({ drawing, tileset, solid: null }, groundOf(usePreferences.getState().theme));
  const { min, max } = drawing.extents!;
  const sheet = new Sheet(id, scene, { minX: min.x, minY: min.y, maxX: max.x, maxY: max.y }, hidden);
  scene.onChange(() => {
    if (!sheet.isWhole) onChange();
  });
  return sheet;
}

type PaneReport = ReturnType<Parameters<typeof reportPane>[1]>;
type Told = 'active' | 'drawingId' | 'cachedBytes' | 'thumbnails' | 'tool' | 'picked' | 'faded' | 'lost' | 'marks';

function inspectPane(
  surface: HTMLElement,
  stage: Stage,
  { pane, drawing }: Parts<'pane' | 'drawing'>,
): Omit<PaneReport, Told> {
  const { id, camera, viewport, trail, isFlying } = pane.getState();
  const { x, y, width, height } = surface.getBoundingClientRect();
  return {
    id,
    rect: { x, y, width, height },
    camera: {
      projection: camera.projection,
      eye: eyeOf(camera, viewport),
      target: camera.target,
      up: cameraAxes(camera).up,
      ...(camera.projection === 'parallel'
        ? { widthWorld: widthWorld(camera, viewport) }
        : { fovRad: camera.fovRad ?? USUAL_FOV_RAD }),
    },
    scaleDenominator: scaleDenominator(camera, unitsOfScreenPx(drawing)),
    drawn: stage.counts,
    pendingTiles: stage.pendingTiles,
    frameMs: stage.frameMs,
    history: branchPosition(trail),
    frames: stage.frames,
    flying: isFlying,
    settled: stage.isSettled && !isFlying,
  };
}
