import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { cameraAxes, eyeOf, widthWorld } from '@gull-pane/core/camera/camera';
import { scaleDenominator } from '@gull-pane/core/camera/scale';
import { branchPosition } from '@gull-pane/core/trail/trail';
import { attachPaneInput } from '../input/pane-input';
import { reportPane } from '../inspect/inspection';
import { Notice } from '../pages/notice';
import { DrawingScene } from '../render/drawing-scene';
import { allLooks } from '../render/pane-view';
import { Stage } from '../render/stage';
import { usePreferences } from '../store/preferences-store';
import type { DrawingStore } from '../store/drawing-store';
import type { PaneStore } from '../store/pane-store';
import { groundOf } from '../theme/themes';
import { startTileWorker } from '../tiles/start-tile-worker';
import { FrameOverlay } from './frame-overlay';
import { PaneFoot } from './pane-foot';
import './pane.css';

interface PaneProps {
  readonly drawing: DrawingStore;
  readonly pane: PaneStore;
}

/** One view of the drawing: the picture, what lies over it while a tool is running, and its foot. */
export function Pane({ drawing, pane }: PaneProps): ReactElement {
  const surface = useRef<HTMLDivElement>(null);
  const lines = useRef<HTMLCanvasElement>(null);
  const letters = useRef<HTMLCanvasElement>(null);
  const [canDraw] = useState(hasWebGl);
  const tool = useStore(pane, (state) => state.tool);

  useEffect(() => {
    if (!canDraw) return undefined;
    return showDrawing(surface.current!, lines.current!, letters.current!, drawing, pane);
  }, [drawing, pane, canDraw]);
  useEffect(() => attachPaneInput(surface.current!, pane), [pane]);

  const { name } = useStore(drawing, (state) => state.drawing);
  return (
    <section className="pane" aria-label={`Pane, ${name}`}>
      <div
        ref={surface}
        className="pane-surface"
        data-tool={tool}
        tabIndex={0}
        role="application"
        aria-label={`${name}: arrows move, plus and minus zoom, A fits all`}
      >
        <canvas ref={lines} className="pane-canvas" aria-hidden />
        <canvas ref={letters} className="pane-canvas" aria-hidden />
        <FrameOverlay pane={pane} />
        {!canDraw && (
          <Notice title="The drawing can’t be shown here" isError>
            <p>This browser gives no access to WebGL 2. Turn on hardware acceleration, or use another browser.</p>
          </Notice>
        )}
      </div>
      <PaneFoot drawing={drawing} pane={pane} />
    </section>
  );
}

/** Whether this browser can draw at all. */
function hasWebGl(): boolean {
  const context = document.createElement('canvas').getContext('webgl2');
  context?.getExtension('WEBGL_lose_context')?.loseContext(); // there are only so many
  return context !== null;
}

/** Ties the stores to the picture. @returns a function that undoes it all */
function showDrawing(
  surface: HTMLElement,
  lines: HTMLCanvasElement,
  letters: HTMLCanvasElement,
  drawing: DrawingStore,
  pane: PaneStore,
): () => void {
  const { drawing: dto, tileset } = drawing.getState();
  const wake = (): void => stage.wake();
  const scene = new DrawingScene(dto, tileset, groundOf(usePreferences.getState().theme), startTileWorker, wake);
  const { id } = pane.getState();
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
        looks: allLooks,
      }),
    },
    scene,
  );
  const measure = (): void => {
    const { clientWidth, clientHeight } = surface;
    stage.resize(clientWidth, clientHeight, window.devicePixelRatio);
    pane.getState().resize({ widthPx: clientWidth, heightPx: clientHeight });
  };
  const observer = new ResizeObserver(measure);
  observer.observe(surface);
  measure();
  void document.fonts.ready.then(stage.redraw); // texts drawn before their letters had come
  const stops = [
    pane.subscribe(wake),
    drawing.subscribe(wake),
    usePreferences.subscribe(({ theme }, before) => {
      if (theme === before.theme) return;
      scene.setGround(groundOf(theme));
      wake();
    }),
    reportPane(id, () => ({ ...inspectPane(surface, stage, pane), cachedBytes: scene.cachedBytes })),
  ];
  return () => {
    for (const stop of stops) stop();
    observer.disconnect();
    stage.dispose();
    scene.dispose();
  };
}

type PaneReport = ReturnType<Parameters<typeof reportPane>[1]>;

function inspectPane(surface: HTMLElement, stage: Stage, pane: PaneStore): Omit<PaneReport, 'cachedBytes'> {
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
      widthWorld: widthWorld(camera, viewport),
    },
    scaleDenominator: scaleDenominator(camera),
    drawn: stage.counts,
    pendingTiles: stage.pendingTiles,
    frameMs: stage.frameMs,
    history: branchPosition(trail),
    frames: stage.frames,
    settled: stage.isSettled && !isFlying,
  };
}
