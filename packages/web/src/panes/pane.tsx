import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { HitMarks } from '../find/hit-marks';
import type { PaneHands } from '../input/pane-hands';
import { attachPaneInput } from '../input/pane-input';
import { Notice } from '../controls/notice';
import type { OpenDrawing } from '../session/open-drawing';
import { panesOf } from '@gull-pane/core/panes/tiling';
import { toolInHand } from '../store/tool-store';
import type { ThumbnailMaker } from '../trail/thumbnail-maker';
import { MarksCanvas } from './marks-canvas';
import {
  Beacon,
  ChangesCanvas,
  DrillMarks,
  ClipHandles,
  Dial,
  EchoMark,
  KeyCursorMark,
  LeashMark,
  MarkGrips,
  Overview,
  PaneAsk,
  PlaneAxes,
  LockHint,
  Puck,
  ShortMenu,
  SolidMarks,
  StanceBar,
  StancePlan,
  StrayOffer,
  UnseenCanvas,
} from './later-parts';
import { PaneFoot } from './pane-foot';
import { PicksCanvas } from './picks-canvas';
import { showDrawing, type ShownDrawing } from './show-drawing';
import { ToolOverlay } from '../tools/tool-overlay';
import './pane.css';

interface PaneProps {
  readonly target: ActionTarget;
  readonly hands: PaneHands;
  readonly open: OpenDrawing;
  /** Told what makes thumbnails of the active pane's views, while there is one. */
  readonly onMaker: (maker: ThumbnailMaker | null) => void;
}

/** One view of a drawing: the picture, what lies over it while a tool is running, and its foot. */
export function Pane({ target, hands, open, onMaker }: PaneProps): ReactElement {
  const { drawing, pane, panes, tools } = target;
  const surface = useRef<HTMLDivElement>(null);
  const lines = useRef<HTMLCanvasElement>(null);
  const letters = useRef<HTMLCanvasElement>(null);
  const [canDraw] = useState(hasWebGl);
  const [shown, setShown] = useState<ShownDrawing | null>(null);
  const tool = useStore(tools, toolInHand);
  const [id] = useState(() => pane.getState().id);
  const isActive = useStore(panes, (state) => state.active === id);
  const isAsking = useStore(panes, (state) => state.unasked.includes(id));
  const number = useStore(panes, (state) => panesOf(state.tiling).indexOf(id) + 1);
  const count = useStore(panes, (state) => panesOf(state.tiling).length);

  useEffect(() => {
    if (!canDraw) return undefined;
    const own = showDrawing(surface.current!, lines.current!, letters.current!, target, open);
    setShown(own);
    return () => {
      setShown(null);
      own.stop();
    };
  }, [target, open, canDraw]);
  useEffect(() => {
    if (!shown || !isActive) return undefined;
    const maker = shown.startMaker();
    onMaker(maker);
    return () => {
      onMaker(null);
      maker.dispose();
    };
  }, [shown, isActive, onMaker]);
  useEffect(() => {
    const isOwn = (): boolean => panes.getState().active === id;
    return attachPaneInput(surface.current!, pane, hands, isOwn);
  }, [pane, panes, hands, id]);

  const { name, kind } = useStore(drawing, (state) => state.drawing);
  const which = count > 1 ? `Pane ${number} of ${count}, ${name}` : `Pane, ${name}`;
  const activate = (): void => panes.getState().activate(id);
  return (
    <section
      className="pane"
      aria-label={which}
      data-active={isActive}
      onPointerDownCapture={activate}
      onFocusCapture={activate}
    >
      <div
        ref={surface}
        className="pane-surface"
        data-tool={tool ?? 'none'}
        tabIndex={0}
        role="application"
        aria-label={`${name}: arrows move, plus and minus zoom, A fits all, question mark shows all keys`}
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
            {isActive && <ClipHandles target={target} />}
          </>
        )}
        <UnseenCanvas target={target} />
        <ChangesCanvas target={target} />
        <MarksCanvas target={target} />
        <DrillMarks target={target} />
        <PlaneAxes target={target} />
        {isActive && <MarkGrips target={target} features={open.features} />}
        <ToolOverlay target={target} scene={shown?.scene ?? null} />
        <EchoMark target={target} />
        {isActive && <ShortMenu target={target} />}
        {!canDraw && (
          <Notice title="The drawing can’t be shown here" isError>
            <p>This browser gives no access to WebGL 2. Turn on hardware acceleration, or use another browser.</p>
          </Notice>
        )}
      </div>
      <div className="pane-over">
        <Beacon target={target} />
        {isAsking && <PaneAsk target={target} />}
        <StrayOffer target={target} />
        <Overview target={target} scene={shown?.scene ?? null} />
        {isActive && <Puck target={target} />}
        {isActive && <KeyCursorMark target={target} />}
        {kind === 'solid' && (
          <>
            <LockHint target={target} />
            <StanceBar target={target} />
            <StancePlan target={target} scene={shown?.scene ?? null} />
            {isActive && <Dial target={target} />}
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
