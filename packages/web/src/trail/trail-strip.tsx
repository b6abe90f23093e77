import { Tooltip } from 'antd';
import {
  AppWindow,
  ChevronDown,
  ChevronUp,
  Eye,
  EyeOff,
  GitBranch,
  Grid3x3,
  Layers,
  Map,
  PencilLine,
  Scissors,
  SunDim,
} from 'lucide-react';
import type { LucideIcon } from 'lucide-react';
import { memo, useEffect, useMemo, useReducer, useRef, useState, type PointerEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { scaleDenominator } from '@gull-pane/core/camera/scale';
import { branchOf, leftTips, type StepKind, type Trail } from '@gull-pane/core/trail/trail';
import { notchesOf } from '@gull-pane/core/intent/wheel-notches';
import { scaleText } from '../basics/figures';
import type { Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { useMedia } from '../controls/use-media';
import { useUnitsOfScreenPx } from '../words/figure-style';
import type { PaneStore } from '../store/pane-state';
import { usePreferences } from '../store/preferences-store';
import { shownInWords } from '../words/view-differences';
import type { ThumbnailMaker } from './thumbnail-maker';
import './trail-strip.css';

/** A view's place in the strip, from one to the next, CSS px. */
const STEP_PX = 104;
/** A press that moves so far scrubs. */
const DRAG_PX = 4;
/** Views left and right of those in sight for which pictures are made, too. */
const SPARE = 4;

/** What a step showed in another way. */
const badges: Partial<Record<StepKind, LucideIcon>> = {
  look: SunDim,
  kinds: Eye,
  layers: Layers,
  objects: EyeOff,
  clips: Scissors,
  marks: PencilLine,
  plane: Grid3x3,
  ground: Map,
};

interface TrailStripProps {
  readonly target: Parts<'pane' | 'drawing'>;
  readonly maker: ThumbnailMaker | null;
}

/** Where the pane has been: click a view to go there, drag along the strip to scrub, turn the wheel to walk. */
export function TrailStrip(props: TrailStripProps): ReactElement {
  const isWanted = usePreferences((state) => state.isTrailOpen);
  // a low window keeps its height for the drawing until the trail is asked for
  const isLow = useMedia('(height < 560px)');
  const [isOpenWhereLow, setOpenWhereLow] = useState(false);
  const isOpen = isLow ? isOpenWhereLow : isWanted;
  const set = usePreferences((state) => state.set);
  const trail = useStore(props.target.pane, (state) => state.trail);
  const branch = useMemo(() => branchOf(trail), [trail]);
  const Icon = isOpen ? ChevronDown : ChevronUp;
  const name = isOpen ? 'Fold the trail' : 'Open the trail';
  return (
    <section className="trail" aria-label="Trail" data-open={isOpen}>
      <ActionTip name={name} sentence="Where this pane has been, newest at the right." placement="top">
        <button
          type="button"
          className="trail-fold"
          aria-label={name}
          aria-expanded={isOpen}
          onClick={() => (isLow ? setOpenWhereLow(!isOpen) : set({ isTrailOpen: !isOpen }))}
        >
          <Icon size={16} aria-hidden />
          <span>
            Trail
            <small className="figures">
              {branch.indexOf(trail.current) + 1} of {branch.length}
            </small>
          </span>
        </button>
      </ActionTip>
      {isOpen && <Strip {...props} trail={trail} branch={branch} />}
    </section>
  );
}

interface StripProps extends TrailStripProps {
  readonly trail: Trail;
  readonly branch: readonly number[];
}

function Strip({ target, maker, trail, branch }: StripProps): ReactElement {
  const { pane } = target;
  const list = useRef<HTMLDivElement>(null);
  const [range, setRange] = useState({ from: 0, to: 12 });
  const [, showMade] = useReducer((count: number) => count + 1, 0);
  const drag = useRef<{ x: number; isScrubbing: boolean } | null>(null);
  const scrubAt = useStore(pane, (state) => state.scrubAt);
  const viewport = useStore(pane, (state) => state.viewport);
  const mmPerPx = useUnitsOfScreenPx(target);
  const current = branch.indexOf(trail.current);
  // only what is in sight is there: a trail may be a thousand views long
  const [from, to] = [Math.max(range.from - SPARE, 0), range.to + SPARE];

  useEffect(() => maker?.pictures.onChange(showMade), [maker]);
  useEffect(() => {
    const wanted = branch.slice(from, to).reverse();
    maker?.want(
      wanted.map((entry) => {
        const { camera, shown } = trail.entries[entry]!;
        return { camera, shown, viewport };
      }),
    );
  }, [maker, trail, branch, from, to, viewport]);
  const look = (): void => {
    const { scrollLeft, clientWidth } = list.current!;
    setRange({ from: Math.floor(scrollLeft / STEP_PX), to: Math.ceil((scrollLeft + clientWidth) / STEP_PX) });
  };
  useEffect(() => {
    const strip = list.current!;
    const [left, right] = [current * STEP_PX, (current + 1) * STEP_PX];
    if (left < strip.scrollLeft) strip.scrollLeft = left;
    else if (right > strip.scrollLeft + strip.clientWidth) strip.scrollLeft = right - strip.clientWidth;
    look();
  }, [current, branch.length]);
  useEffect(() => {
    const strip = list.current!;
    let turned = 0;
    const turn = (event: WheelEvent): void => {
      event.preventDefault();
      turned += notchesOf(event.deltaY || event.deltaX, event.deltaMode);
      for (; turned >= 1; turned--) pane.getState().forward();
      for (; turned <= -1; turned++) pane.getState().back();
    };
    strip.addEventListener('wheel', turn, { passive: false });
    return () => strip.removeEventListener('wheel', turn);
  }, [pane]);

  const move = (event: PointerEvent<HTMLDivElement>): void => {
    const strip = list.current!;
    if (!drag.current) return;
    if (!drag.current.isScrubbing && Math.abs(event.clientX - drag.current.x) <= DRAG_PX) return;
    if (!drag.current.isScrubbing) strip.setPointerCapture(event.pointerId);
    drag.current.isScrubbing = true;
    const x = event.clientX - strip.getBoundingClientRect().left + strip.scrollLeft;
    pane.getState().scrub(x / STEP_PX - 0.5);
  };
  const release = (): void => {
    if (drag.current?.isScrubbing) pane.getState().endScrub();
    drag.current = null;
  };
  return (
    <div
      ref={list}
      className="trail-views"
      onScroll={look}
      onPointerDown={(event) => {
        drag.current = { x: event.clientX, isScrubbing: false };
      }}
      onPointerMove={move}
      onPointerUp={release}
      onPointerCancel={release}
    >
      <i className="trail-length" style={{ width: branch.length * STEP_PX }} />
      {branch.slice(from, to).map((entry, offset) => {
        const { camera, shown, parent } = trail.entries[entry]!;
        const [newestWay, ...otherWays] = leftTips(trail, entry);
        return (
          <TrailView
            key={entry}
            pane={pane}
            entry={entry}
            index={from + offset}
            step={trail.entries[entry]!}
            before={trail.entries[parent]?.shown}
            isCurrent={entry === trail.current}
            picture={maker?.pictures.of({ camera, shown })}
            mmPerPx={mmPerPx}
            newestWay={newestWay}
            ways={newestWay === undefined ? 0 : 1 + otherWays.length}
          />
        );
      })}
      {scrubAt !== null && <i className="trail-mark" style={{ left: (scrubAt + 0.5) * STEP_PX }} />}
    </div>
  );
}

interface TrailViewProps {
  readonly pane: PaneStore;
  /** Its number in the trail, and its place in the strip. */
  readonly entry: number;
  readonly index: number;
  readonly step: Trail['entries'][number];
  /** What the view before it showed. */
  readonly before: Trail['entries'][number]['shown'] | undefined;
  readonly isCurrent: boolean;
  readonly picture: string | undefined;
  readonly mmPerPx: number;
  readonly newestWay: number | undefined;
  readonly ways: number;
}

/** One view of the strip. A step changes two or three of them: the others aren't rendered again. */
const TrailView = memo(function TrailView(props: TrailViewProps): ReactElement {
  const { pane, entry, index, step, before, isCurrent, picture, mmPerPx, newestWay, ways } = props;
  const { camera, shown, kind, isElsewhere } = step;
  const scale = scaleText(scaleDenominator(camera, mmPerPx));
  const changes = [...(isElsewhere ? ['from another window'] : []), ...(before ? shownInWords(before, shown) : [])];
  const Badge = badges[kind];
  return (
    <div className="trail-view" style={{ left: index * STEP_PX }}>
      <Enlarged picture={picture} changes={changes}>
        <button
          type="button"
          aria-label={[`View ${index + 1}`, scale, ...changes].join(', ')}
          aria-current={isCurrent ? 'step' : undefined}
          onClick={() => pane.getState().goTo(entry)}
        >
          <Thumbnail picture={picture} scale={scale} />
          {isElsewhere && <AppWindow className="trail-badge" data-at="top" size={18} aria-hidden />}
          {Badge && <Badge className="trail-badge" size={18} aria-hidden />}
        </button>
      </Enlarged>
      {newestWay !== undefined && <Branches pane={pane} newest={newestWay} count={ways} />}
    </div>
  );
});

/** What a view shows, larger, while the cursor rests on it. */
function Enlarged({
  picture,
  changes,
  children,
}: {
  readonly picture: string | undefined;
  /** What is shown in another way than before, in words. */
  readonly changes: readonly string[];
  readonly children: ReactElement;
}): ReactElement {
  const content = (picture !== undefined || changes.length > 0) && (
    <>
      {picture !== undefined && <img className="trail-large" src={picture} alt="" />}
      {changes.length > 0 && <p className="trail-changes">{changes.join(', ')}</p>}
    </>
  );
  return (
    <Tooltip title={content} placement="top" mouseEnterDelay={0.25} classNames={{ root: 'trail-enlarged' }}>
      {children}
    </Tooltip>
  );
}

function Thumbnail({ picture, scale }: { readonly picture: string | undefined; readonly scale: string }): ReactElement {
  return (
    <>
      {picture === undefined ? <span className="trail-blank" /> : <img src={picture} alt="" draggable={false} />}
      <small className="figures">{scale}</small>
    </>
  );
}

/** The ways that were left at a view: each is one press away. */
function Branches({
  pane,
  newest,
  count,
}: {
  readonly pane: PaneStore;
  readonly newest: number;
  readonly count: number;
}): ReactElement {
  return (
    <ActionTip
      name="A way left here"
      sentence="Goes to where it ended; what you see now stays in the trail."
      placement="top"
    >
      <button
        type="button"
        className="trail-branch"
        aria-label={`${count} ${count === 1 ? 'way' : 'ways'} left here`}
        onClick={() => pane.getState().goTo(newest)}
      >
        <GitBranch size={12} aria-hidden />
        {count > 1 && count}
      </button>
    </ActionTip>
  );
}
