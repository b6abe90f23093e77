import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { USUAL_FOV_RAD, cameraAxes, eyeOf, screenToWorld, widthWorld } from '@gull-pane/core/camera/camera';
import { scaleDenominator } from '@gull-pane/core/camera/scale';
import { branchPosition } from '@gull-pane/core/trail/trail';
import type { ActionTarget } from '../actions/action';
import { HitMarks } from '../find/hit-marks';
import type { PaneHands, SnapFinder } from '../input/pane-hands';
import { attachPaneInput } from '../input/pane-input';
import { reportPane } from '../inspect/inspection';
import { Notice } from '../pages/notice';
import { DrawingScene } from '../render/drawing-scene';
import { GroundSheet } from '../render/ground-sheet';
import { allLooks } from '../render/pane-view';
import type { Scene } from '../render/scene';
import { SolidScene } from '../render/solid-scene';
import { startSolidTileWorker } from '../tiles/start-solid-tile-worker';
import { Dial } from './dial';
import { LockHint } from './solid-foot';
import { SolidMarks } from './solid-marks';
import { Stage } from '../render/stage';
import type { GroundPlan } from '../store/ground-plan-store';
import { usePreferences } from '../store/preferences-store';
import type { PaneStore } from '../store/pane-store';
import { toolInHand } from '../store/tool-store';
import { groundOf } from '../theme/themes';
import { ThumbnailMaker } from '../trail/thumbnail-maker';
import { startTileWorker } from '../tiles/start-tile-worker';
import { Beacon } from './beacon';
import { LensView } from './lens-view';
import { PickOverlay } from './pick-overlay';
import { PicksCanvas } from './picks-canvas';
import { PaneFoot } from './pane-foot';
import { ShortMenu } from './short-menu';
import { ClipHandles } from './clip-handles';
import { LeashMark, StanceBar } from './stance-bar';
import { StancePlan } from './stance-plan';
import { Puck } from './puck';
import { StrayOffer } from './stray-offer';
import { ToolOverlay } from './tool-overlay';
import './pane.css';

interface PaneProps {
  readonly target: ActionTarget;
  readonly hands: PaneHands;
  /** Told what makes thumbnails of this pane's views, while there is one. */
  readonly onMaker: (maker: ThumbnailMaker | null) => void;
}

/** One view of the drawing: the picture, what lies over it while a tool is running, and its foot. */
export function Pane({ target, hands, onMaker }: PaneProps): ReactElement {
  const { drawing, pane, tools } = target;
  const surface = useRef<HTMLDivElement>(null);
  const lines = useRef<HTMLCanvasElement>(null);
  const letters = useRef<HTMLCanvasElement>(null);
  const [canDraw] = useState(hasWebGl);
  const [scene, setScene] = useState<Scene | null>(null);
  const tool = useStore(tools, toolInHand);

  useEffect(() => {
    if (!canDraw) return undefined;
    const shown = showDrawing(surface.current!, lines.current!, letters.current!, target);
    setScene(shown.scene);
    hands.snapBy(shown.findSnap);
    onMaker(shown.maker);
    return () => {
      hands.snapBy(null);
      onMaker(null);
      setScene(null);
      shown.stop();
    };
  }, [target, hands, onMaker, canDraw]);
  useEffect(() => attachPaneInput(surface.current!, pane, hands), [pane, hands]);

  const { name, unit, kind } = useStore(drawing, (state) => state.drawing);
  return (
    <section className="pane" aria-label={`Pane, ${name}`}>
      <div
        ref={surface}
        className="pane-surface"
        data-tool={tool ?? 'none'}
        tabIndex={0}
        role="application"
        aria-label={`${name}: arrows move, plus and minus zoom, A fits all, question mark tells all keys`}
      >
        <canvas ref={lines} className="pane-canvas" aria-hidden />
        <canvas ref={letters} className="pane-canvas" aria-hidden />
        {kind === 'flat' ? (
          <>
            <PicksCanvas target={target} />
            <HitMarks target={target} />
          </>
        ) : (
          <>
            <SolidMarks target={target} />
            <LeashMark target={target} />
            <ClipHandles target={target} />
          </>
        )}
        <PickOverlay target={target} />
        <ToolOverlay pane={pane} tools={tools} unit={unit} />
        <LensView drawing={drawing} pane={pane} tools={tools} scene={scene} />
        <ShortMenu target={target} />
        {!canDraw && (
          <Notice title="The drawing can’t be shown here" isError>
            <p>This browser gives no access to WebGL 2. Turn on hardware acceleration, or use another browser.</p>
          </Notice>
        )}
      </div>
      <div className="pane-over">
        <Beacon target={target} />
        <StrayOffer target={target} />
        <Puck target={target} />
        {kind === 'solid' && (
          <>
            <LockHint target={target} />
            <StanceBar target={target} />
            <StancePlan target={target} scene={scene} />
            <Dial target={target} />
          </>
        )}
      </div>
      <PaneFoot target={target} />
    </section>
  );
}

/** Whether this browser can draw at all. */
function hasWebGl(): boolean {
  const context = document.createElement('canvas').getContext('webgl2');
  context?.getExtension('WEBGL_lose_context')?.loseContext(); // there are only so many
  return context !== null;
}

/** The picture of a view card, px. */
const CARD_PX = { width: 320, height: 200 } as const;
/** So near a point is drawn, CSS px. */
const SNAP_PX = 12;

interface ShownDrawing {
  readonly scene: Scene;
  readonly findSnap: SnapFinder;
  readonly maker: ThumbnailMaker;
  stop(): void;
}

/** Ties the stores to the picture. */
function showDrawing(
  surface: HTMLElement,
  lines: HTMLCanvasElement,
  letters: HTMLCanvasElement,
  target: ActionTarget,
): ShownDrawing {
  const { drawing, pane, tools, picks, sight, clips, groundPlan, seen } = target;
  const { scene, stops: ties } = makeScene(target);
  const { id } = pane.getState();
  const ground: { sheet: GroundSheet | null } = { sheet: null };
  const stage = new Stage(
    lines,
    letters,
    {
      id,
      advance: () => pane.getState().advance(),
      view: () => ({
        camera: pane.getState().camera,
        viewport: pane.getState().viewport,
        hidden: drawing.getState().hidden,
        ...{ looks: allLooks, look: pane.getState().look, clips: clips.getState().volumes, sheet: ground.sheet },
      }),
    },
    scene,
  );
  const laid = groundPlan.subscribe(({ plan }) => lay(plan));
  const lay = (plan: GroundPlan | null): void => {
    ground.sheet?.dispose();
    ground.sheet = plan && makeSheet(id, plan, stage.redraw);
    stage.redraw();
  };
  lay(groundPlan.getState().plan);
  const measure = (): void => {
    const { clientWidth, clientHeight } = surface;
    stage.resize(clientWidth, clientHeight, window.devicePixelRatio);
    pane.getState().resize({ widthPx: clientWidth, heightPx: clientHeight });
  };
  const observer = new ResizeObserver(measure);
  observer.observe(surface);
  measure();
  void document.fonts.ready.then(stage.redraw); // texts drawn before their letters had come
  seen.picture = () => smallPicture(lines, letters);
  const isCalm = (): boolean => stage.isSettled && !pane.getState().isFlying;
  const maker = new ThumbnailMaker(scene, id, isCalm, () => ({
    ...{
      hidden: drawing.getState().hidden,
      looks: allLooks,
      look: pane.getState().look,
      clips: clips.getState().volumes,
      sheet: null,
    },
  }));
  const stops = [
    ...ties,
    laid,
    () => {
      seen.picture = null;
    },
    () => ground.sheet?.dispose(),
    drawing.subscribe(({ hiddenObjects }, before) => {
      if (hiddenObjects === before.hiddenObjects) return;
      scene.hideObjects(hiddenObjects);
      maker.forget();
    }),
    scene.onChange(stage.wake),
    pane.subscribe(stage.wake),
    clips.subscribe(({ volumes }, before) => {
      if (volumes === before.volumes) return;
      maker.forget();
      stage.wake();
    }),
    drawing.subscribe(stage.wake),
    usePreferences.subscribe(({ theme }, before) => {
      if (theme === before.theme) return;
      scene.setGround(groundOf(theme));
      lay(groundPlan.getState().plan);
      maker.forget();
      stage.wake();
    }),
    reportPane(id, () => ({
      ...inspectPane(surface, stage, pane),
      cachedBytes: scene.cachedBytes,
      thumbnails: maker.kept,
      tool: toolInHand(tools.getState()),
      picked: picks.getState().picked.size,
      lost: sight.getState().isLost,
    })),
  ];
  return {
    scene,
    maker,
    findSnap: (at) => {
      const { camera, viewport } = pane.getState();
      const { hidden } = drawing.getState();
      return scene.findSnap(id, screenToWorld(camera, viewport, at), SNAP_PX * camera.unitsPerPx, hidden);
    },
    stop: () => {
      for (const stop of stops) stop();
      observer.disconnect();
      maker.dispose();
      stage.dispose();
      scene.dispose();
    },
  };
}

/** The scene of the drawing that is open, a plan's or a solid's. */
function makeScene({ drawing, pane, picks, seen, clips }: ActionTarget): {
  readonly scene: Scene;
  readonly stops: readonly (() => void)[];
} {
  const { drawing: dto, tileset, solid } = drawing.getState();
  const ground = groundOf(usePreferences.getState().theme);
  if (!solid) return { scene: new DrawingScene(dto, tileset, ground, startTileWorker), stops: [] };
  const scene = new SolidScene(dto, tileset, solid, ground, startSolidTileWorker);
  seen.surface = scene.surface(() => clips.getState().volumes);
  const mark = (): void => {
    const { picked, hovered } = picks.getState();
    const { turnsAlone, pivot } = pane.getState();
    const isAlone = turnsAlone && pivot !== null && picked.size > 0;
    scene.mark({ hiddenLayers: drawing.getState().hidden, picked, hovered: hovered?.object ?? null, isAlone });
  };
  mark();
  const forget = (): void => {
    seen.surface = null;
  };
  return {
    scene,
    stops: [
      ...[drawing.subscribe(mark), picks.subscribe(mark), forget],
      pane.subscribe(({ pivot, turnsAlone }, before) => {
        if ((pivot === null) !== (before.pivot === null) || turnsAlone !== before.turnsAlone) mark();
      }),
    ],
  };
}

/** What a pane shows, as a small picture in a data address. */
function smallPicture(...canvases: readonly HTMLCanvasElement[]): string {
  const [first] = canvases;
  if (!first || first.width === 0) return '';
  const small = document.createElement('canvas');
  Object.assign(small, { width: CARD_PX.width, height: CARD_PX.height });
  const paper = small.getContext('2d');
  if (!paper) return '';
  // the middle of the pane in the card's shape
  const scale = Math.min(first.width / CARD_PX.width, first.height / CARD_PX.height);
  const [width, height] = [CARD_PX.width * scale, CARD_PX.height * scale];
  const [x, y] = [(first.width - width) / 2, (first.height - height) / 2];
  for (const canvas of canvases) paper.drawImage(canvas, x, y, width, height, 0, 0, CARD_PX.width, CARD_PX.height);
  const picture = small.toDataURL('image/webp', 0.75);
  return picture.length < 40_000 ? picture : '';
}

/** @param onChange called when more of the plan has come */
function makeSheet(id: string, { drawing, tileset, hidden }: GroundPlan, onChange: () => void): GroundSheet {
  const scene = new DrawingScene(drawing, tileset, groundOf(usePreferences.getState().theme), startTileWorker);
  const { min, max } = drawing.extents!;
  const sheet = new GroundSheet(id, scene, { minX: min.x, minY: min.y, maxX: max.x, maxY: max.y }, hidden);
  scene.onChange(() => {
    if (!sheet.isWhole) onChange();
  });
  return sheet;
}

type PaneReport = ReturnType<Parameters<typeof reportPane>[1]>;

function inspectPane(
  surface: HTMLElement,
  stage: Stage,
  pane: PaneStore,
): Omit<PaneReport, 'cachedBytes' | 'thumbnails' | 'tool' | 'picked' | 'lost'> {
  const { id, camera, viewport, trail, isFlying } = pane.getState();
  const { x, y, width, height } = surface.getBoundingClientRect();
  return {
    id,
    active: true,
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
    scaleDenominator: scaleDenominator(camera, usePreferences.getState().mmPerPx),
    drawn: stage.counts,
    pendingTiles: stage.pendingTiles,
    frameMs: stage.frameMs,
    history: branchPosition(trail),
    frames: stage.frames,
    flying: isFlying,
    settled: stage.isSettled && !isFlying,
  };
}
