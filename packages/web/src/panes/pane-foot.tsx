import { Navigation2 } from 'lucide-react';
import { useId, useRef, type MouseEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { screenToWorld } from '@gull-pane/core/camera/camera';
import { topInWords } from '@gull-pane/core/camera/directions';
import { scaleDenominator } from '@gull-pane/core/camera/scale';
import { scaleBarFor } from '@gull-pane/core/camera/scale-bar';
import { bearingOf } from '@gull-pane/core/camera/twist';
import { viewBox } from '@gull-pane/core/camera/view-box';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import { panesOf } from '@gull-pane/core/panes/tiling';
import { sheetInView } from '@gull-pane/core/spatial/sheet';
import { isFormer } from '@gull-pane/protocol/drawings';
import type { Action, ActionTarget, Parts } from '../actions/action';
import { nextSheetAction, previousSheetAction } from '../actions/sheet-actions';
import { ActionTip } from '../actions/action-tip';
import { PopoverButton } from '../controls/popover-button';
import { useRoom } from '../controls/use-room';
import { coordinateText, grouped, scaleText, lengthText } from '../basics/figures';
import { useUnitsOfScreenPx } from '../words/figure-style';
import type { PaneStore } from '../store/pane-state';
import { isOnFoot, useFootDrag } from './foot-drag';
import { KindsPart } from './kinds-part';
import { BearingPanel, GridPart, ScalePanel, SolidFoot } from './later-parts';
import { PaneMenu } from './pane-menu';
import { TieChips } from './tie-chips';
import './pane-foot.css';

/** The widest that the scale bar gets, CSS px. */
const BAR_PX = 120;
/** The same where the foot has more to say. */
const SOLID_BAR_PX = 64;

/**
 * What a narrow foot does without, the least needed first. Coordinates stand above the foot where it has no room for them;
 * scale, ties and menu always stay.
 */
const LEAST_NEEDED = [
  'grid',
  'words',
  'bar',
  'bearing',
  'place',
  'axes',
  'direction',
  'sheets',
  'looks',
  'number',
] as const;

/** The strip along a pane's lower edge: how one looks, at what scale, and where the cursor is. */
export function PaneFoot({ target }: { readonly target: ActionTarget }): ReactElement {
  const { drawing, pane } = target;
  const { unit, kind } = useStore(drawing, (state) => state.drawing);
  const drag = useFootDrag(target);
  const fill = (event: MouseEvent<HTMLElement>): void => {
    if (isOnFoot(event)) target.panes.getState().fill(pane.getState().id);
  };
  const foot = useRef<HTMLDivElement>(null);
  useRoom(foot, LEAST_NEEDED, 'width');
  return (
    <div ref={foot} className="pane-foot" role="group" aria-label="Foot" onDoubleClick={fill} {...drag}>
      <PaneNumber target={target} />
      <RevisionTag target={target} />
      {kind === 'flat' ? <BearingButton target={target} /> : <SolidFoot target={target} />}
      <ScaleButton target={target} />
      {unit !== 'none' && <Bar target={target} mostPx={kind === 'flat' ? BAR_PX : SOLID_BAR_PX} />}
      {kind === 'solid' && <GridPart target={target} />}
      <Sheets target={target} />
      {kind === 'flat' ? <CursorPlace pane={pane} unit={unit} /> : <SurfacePlace target={target} />}
      <span className="foot-end">
        <TieChips target={target} />
        {kind === 'flat' && <KindsPart target={target} />}
        <PaneMenu target={target} />
      </span>
    </div>
  );
}

/** What menus call the pane, where there are several. */
function PaneNumber({ target: { pane, panes } }: { readonly target: Parts<'pane' | 'panes'> }): ReactElement | null {
  const number = useStore(panes, ({ tiling }) => {
    const all = panesOf(tiling);
    return all.length > 1 ? all.indexOf(pane.getState().id) + 1 : 0;
  });
  // a screen reader hears it in the pane's own name
  return number > 0 ? (
    <span className="foot-number figures" aria-hidden>
      {number}
    </span>
  ) : null;
}

/** Which revision the pane shows, where it isn't the only one that can be meant. */
function RevisionTag({ target }: { readonly target: Parts<'drawing' | 'panes'> }): ReactElement | null {
  const { id, revision } = useStore(target.drawing, (state) => state.drawing);
  const hasSeveral = useStore(target.panes, ({ tiling }) => panesOf(tiling).length > 1);
  return isFormer(id) || (hasSeveral && revision > 1) ? (
    <span className="foot-revision" data-former={isFormer(id)}>
      Rev. {revision}
    </span>
  ) : null;
}

function BearingButton({ target }: { readonly target: ActionTarget }): ReactElement {
  const bearing = useStore(target.pane, ({ camera }) => bearingOf(camera));
  const text = `Plan, ${topInWords(bearing)} up`;
  return (
    <PopoverButton
      className="foot-button foot-view"
      label={`Bearing, ${text}`}
      placement="topLeft"
      tip={{ name: 'Bearing', sentence: 'What lies at the top; the needle points north.' }}
      content={() => <BearingPanel target={target} />}
    >
      <Navigation2
        size={14}
        aria-hidden
        className="north"
        style={{ transform: `rotate(${(-bearing * 180) / Math.PI}deg)` }}
      />
      <span className="foot-bearing">{text}</span>
    </PopoverButton>
  );
}

/** Its name and its text change with every frame, and only they are rendered then. */
function ScaleButton({ target }: { readonly target: Parts<'pane' | 'drawing'> }): ReactElement {
  const id = useId();
  return (
    <>
      <PopoverButton
        className="foot-button figures"
        label={{ by: id }}
        tip={{ name: 'Scale', sentence: 'Go to an exact scale, or measure your screen so that it is true.' }}
        content={(close) => <ScalePanel target={target} onDone={close} />}
      >
        <ScaleText target={target} />
      </PopoverButton>
      <span id={id} hidden>
        <ScaleName target={target} />
      </span>
    </>
  );
}

function ScaleText({ target }: { readonly target: Parts<'pane' | 'drawing'> }): ReactElement {
  const { scale, where, end } = useScale(target);
  return (
    <>
      {scale}
      {where !== '' && <span className="foot-text">{where}</span>}
      {end}
    </>
  );
}

function ScaleName({ target }: { readonly target: Parts<'pane' | 'drawing'> }): ReactElement {
  const { scale, where, end } = useScale(target);
  return <>{`Scale, ${scale}${where}${end}`}</>;
}

/** The scale of a view in words. */
function useScale(target: Parts<'pane' | 'drawing'>): {
  readonly scale: string;
  readonly where: string;
  readonly end: string;
} {
  const mmPerPx = useUnitsOfScreenPx(target);
  const scale = useStore(target.pane, ({ camera }) => scaleText(scaleDenominator(camera, mmPerPx)));
  // in perspective it is true at one depth only
  const where = useStore(target.pane, ({ camera }) => (camera.projection === 'perspective' ? ' at the middle' : ''));
  const end = useStore(target.pane, ({ camera, limits }) =>
    camera.unitsPerPx <= limits.minUnitsPerPx * (1 + 1e-9)
      ? ', closest'
      : camera.unitsPerPx >= limits.maxUnitsPerPx * (1 - 1e-9)
        ? ', farthest'
        : '',
  );
  return { scale, where, end };
}

function Bar({
  target,
  mostPx,
}: {
  readonly target: Parts<'pane' | 'drawing'>;
  readonly mostPx: number;
}): ReactElement {
  const { unit } = useStore(target.drawing, (state) => state.drawing);
  const unitsPerPx = useStore(target.pane, ({ camera }) => camera.unitsPerPx);
  const { length, widthPx } = scaleBarFor(unitsPerPx, mostPx);
  return (
    <span className="scale-bar figures" role="img" aria-label={`Scale bar, ${lengthText(length, unit)}`}>
      <i style={{ width: widthPx }} />
      {lengthText(length, unit)}
    </span>
  );
}

/** Where one is in a set of sheets, and the ways to the next. */
function Sheets({ target }: { readonly target: ActionTarget }): ReactElement | null {
  const { drawing, pane } = target;
  const { sheets } = useStore(drawing, (state) => state.drawing);
  const shown = useStore(pane, ({ camera, viewport }) => sheetInView(sheets, viewBox(camera, viewport)));
  if (sheets.length < 2) return null;
  const button = (action: Action, isEnabled: boolean): ReactElement => (
    <ActionTip name={action.name} sentence={action.sentence} actionId={action.id} placement="top">
      <button
        type="button"
        className="foot-button"
        aria-label={action.name}
        aria-disabled={!isEnabled}
        onClick={() => isEnabled && action.run(target)}
      >
        <action.icon size={14} aria-hidden />
      </button>
    </ActionTip>
  );
  return (
    <span className="foot-sheets" role="group" aria-label="Sheets">
      {button(previousSheetAction, shown !== 0)}
      <span className="figures" role="status" title={sheets[shown]?.name}>
        {shown < 0 ? `${grouped(sheets.length)} sheets` : `Sheet ${shown + 1} of ${grouped(sheets.length)}`}
      </span>
      {button(nextSheetAction, shown + 1 < sheets.length)}
    </span>
  );
}

function CursorPlace({ pane, unit }: { readonly pane: PaneStore; readonly unit: string }): ReactElement {
  const cursor = useStore(pane, (state) => state.cursor);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const at = cursor ? screenToWorld(camera, viewport, cursor) : null;
  const write = (value: number): string => coordinateText(value, camera.unitsPerPx);
  const told = ({ x, y }: Vec2): string => `E ${write(x)}  N ${write(y)}${unit === 'none' ? '' : ` ${unit}`}`;
  return <PlaceText at={at && told(at)} room={told(camera.target)} />;
}

/** The surface point under the cursor, in a solid. */
function SurfacePlace({ target: { pane, seen } }: { readonly target: Parts<'pane' | 'seen'> }): ReactElement {
  const cursor = useStore(pane, (state) => state.cursor);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const isTurning = useStore(pane, (state) => state.pivot !== null || state.isFlying);
  const point = cursor && !isTurning ? seen.surface?.hit(camera, viewport, cursor)?.point : null;
  const write = (value: number): string => coordinateText(value, camera.unitsPerPx);
  const told = ({ x, y, z }: Vec3): string => `E ${write(x)}  N ${write(y)}  Z ${write(z)}`;
  return <PlaceText at={point ? told(point) : null} room={told(camera.target)} />;
}

/** Where the cursor is. @param room as wide as that, kept free while the cursor is elsewhere */
const PlaceText = ({ at, room }: { readonly at: string | null; readonly room: string }): ReactElement => (
  <span className="foot-place figures" role="note" aria-label="Cursor" data-away={at === null}>
    {at ?? room}
  </span>
);
