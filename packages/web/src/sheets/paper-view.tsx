import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import { paperInks, sheetParts, type SheetPart } from '@gull-pane/core/sheets/sheet-parts';
import { placementOf } from '@gull-pane/core/sheets/sheet';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { PaperSheetDto, SheetFrameDto, StripFieldsDto } from '@gull-pane/protocol/sheet-sets';
import type { FramePictures } from './frame-pictures';
import { GRID_MM, LEAST_FRAME_MM, movedFrame, sizedFrame, type Corner } from './move-frame';

interface PaperViewProps {
  readonly sheets: readonly PaperSheetDto[];
  readonly index: number;
  readonly fields: StripFieldsDto;
  readonly unit: DrawingUnit;
  readonly pictures: FramePictures;
  /** Index of the frame that fields and keys work on. */
  readonly chosen: number;
  readonly onChoose: (frame: number) => void;
  /** @param what names the change for its undo */
  readonly onChange: (frame: number, changed: SheetFrameDto, what: string) => void;
}

/** So far an arrow key moves what a frame shows, mm on paper. */
const STEP_MM = 5;

/** A sheet as it will be: its views, which are dragged to show something else, and all that it draws itself. */
export function PaperView(props: PaperViewProps): ReactElement {
  const { sheets, index, fields, unit, pictures, chosen } = props;
  const sheet = sheets[index]!;
  const desk = useRef<HTMLDivElement>(null);
  const pxPerMm = useFit(desk, sheet.paper.widthMm, sheet.paper.heightMm);
  const [dragged, setDragged] = useState<{ readonly frame: number; readonly is: SheetFrameDto } | null>(null);
  const frames = sheet.frames.map((frame, k) => (dragged?.frame === k ? dragged.is : frame));
  const shown = sheets.map((one, k) => (k === index ? { ...one, frames } : one));
  const parts = sheetParts(shown, index, fields, unit);
  const { widthMm, heightMm } = sheet.paper;
  return (
    <div className="sheet-desk" ref={desk}>
      {pxPerMm > 0 && (
        <div
          className="sheet-paper"
          role="group"
          aria-label={`Sheet ${index + 1}, ${sheet.name}`}
          style={{ width: widthMm * pxPerMm, height: heightMm * pxPerMm }}
        >
          {frames.map((frame, k) => (
            <FrameView
              key={k}
              frame={frame}
              name={`View ${k + 1} of ${sheet.name}`}
              unit={unit}
              pxPerMm={pxPerMm}
              pictures={pictures}
              isChosen={k === chosen && frames.length > 1}
              hasHandles={k === chosen}
              onChoose={() => props.onChoose(k)}
              onDrag={(is) => setDragged(is && { frame: k, is })}
              onChange={(changed, what) => {
                setDragged(null);
                props.onChange(k, changed, what);
              }}
            />
          ))}
          <svg className="sheet-parts" viewBox={`0 0 ${widthMm} ${heightMm}`} aria-hidden>
            {parts.map((part, k) => (
              <PartView key={k} part={part} />
            ))}
          </svg>
        </div>
      )}
    </div>
  );
}

/** Px of the screen for a millimetre of paper, so that a sheet has room. */
function useFit(desk: React.RefObject<HTMLDivElement | null>, widthMm: number, heightMm: number): number {
  const [room, setRoom] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = desk.current!;
    const observer = new ResizeObserver(() => setRoom({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, [desk]);
  const margin = 32;
  return Math.max(Math.min((room.width - 2 * margin) / widthMm, (room.height - 2 * margin) / heightMm), 0);
}

interface FrameViewProps {
  readonly frame: SheetFrameDto;
  readonly name: string;
  readonly unit: DrawingUnit;
  readonly pxPerMm: number;
  readonly pictures: FramePictures;
  readonly isChosen: boolean;
  readonly hasHandles: boolean;
  readonly onChoose: () => void;
  /** While it is dragged; null where that was called off. */
  readonly onDrag: (frame: SheetFrameDto | null) => void;
  readonly onChange: (frame: SheetFrameDto, what: string) => void;
}

type Grip = 'view' | 'place' | Corner;
const corners = ['upper left', 'upper right', 'lower right', 'lower left'] as const satisfies readonly Corner[];

/** A view on a sheet: dragging it moves what it shows, its grips move and size it. */
function FrameView(props: FrameViewProps): ReactElement {
  const { frame, name, unit, pxPerMm, pictures, isChosen, hasHandles } = props;
  const { leftMm, topMm, widthMm, heightMm } = frame;
  const start = useRef<{ readonly grip: Grip; readonly x: number; readonly y: number; readonly frame: SheetFrameDto }>(
    null,
  );
  const changed = (grip: Grip, from: SheetFrameDto, rightMm: number, downMm: number): SheetFrameDto => {
    if (grip === 'place') return movedFrame(from, rightMm, downMm);
    if (grip !== 'view') return standing(from, sizedFrame(from, grip, rightMm, downMm), unit);
    return panned(from, unit, rightMm, downMm);
  };
  const words: Record<Grip, string> = {
    view: 'view moved',
    place: 'frame moved',
    ...(Object.fromEntries(corners.map((corner) => [corner, 'frame sized'])) as Record<Corner, string>),
  };
  const dragWith = (grip: Grip) => ({
    onPointerDown: (event: PointerEvent<HTMLElement>): void => {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      start.current = { grip, x: event.clientX, y: event.clientY, frame };
      props.onChoose();
    },
    onPointerMove: (event: PointerEvent<HTMLElement>): void => {
      const from = start.current;
      if (from?.grip !== grip) return;
      props.onDrag(changed(grip, from.frame, (event.clientX - from.x) / pxPerMm, (event.clientY - from.y) / pxPerMm));
    },
    onPointerUp: (event: PointerEvent<HTMLElement>): void => {
      const from = start.current;
      if (from?.grip !== grip) return;
      start.current = null;
      const [right, down] = [(event.clientX - from.x) / pxPerMm, (event.clientY - from.y) / pxPerMm];
      if (Math.hypot(right, down) * pxPerMm < 2) props.onDrag(null);
      else props.onChange(changed(grip, from.frame, right, down), words[grip]);
    },
    onPointerCancel: (): void => {
      start.current = null;
      props.onDrag(null);
    },
  });
  const keysOf =
    (grip: Grip, stepMm: number) =>
    (event: KeyboardEvent<HTMLElement>): void => {
      const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
      if (!way) return;
      event.preventDefault();
      event.stopPropagation();
      // arrows look to their side: what is shown moves the other way
      const sign = grip === 'view' ? -1 : 1;
      const reach = stepMm * (event.shiftKey ? 10 : 1) * sign;
      props.onChange(changed(grip, frame, way[0]! * reach, way[1]! * reach), words[grip]);
    };
  const style = {
    left: leftMm * pxPerMm,
    top: topMm * pxPerMm,
    width: widthMm * pxPerMm,
    height: heightMm * pxPerMm,
  };
  return (
    <div className="sheet-frame" data-chosen={isChosen} style={style}>
      <div
        className="sheet-frame-view"
        role="application"
        tabIndex={0}
        aria-label={`${name}: drag, or arrow keys, to show something else`}
        onFocus={props.onChoose}
        onKeyDown={keysOf('view', STEP_MM)}
        {...dragWith('view')}
      >
        <FramePicture frame={frame} pxPerMm={pxPerMm} pictures={pictures} />
      </div>
      {hasHandles && (
        <>
          <button
            type="button"
            className="sheet-grip"
            data-grip="place"
            aria-label={`Move ${name}`}
            onKeyDown={keysOf('place', GRID_MM)}
            {...dragWith('place')}
          />
          {corners.map((corner) => (
            <button
              key={corner}
              type="button"
              className="sheet-grip"
              data-grip={corner}
              aria-label={`Size ${name} at its ${corner} corner`}
              onKeyDown={keysOf(corner, GRID_MM)}
              {...dragWith(corner)}
            />
          ))}
        </>
      )}
    </div>
  );
}

/** What is shown moves with the hand. */
function panned(frame: SheetFrameDto, unit: DrawingUnit, rightMm: number, downMm: number): SheetFrameDto {
  const { toDrawing } = placementOf(frame, unit);
  const [middleX, middleY] = [frame.leftMm + frame.widthMm / 2, frame.topMm + frame.heightMm / 2];
  const [x, y] = toDrawing(middleX - rightMm, middleY - downMm);
  return { ...frame, view: { ...frame.view, x, y } };
}

/** A frame of another size whose view stays where it was on the paper. */
function standing(before: SheetFrameDto, sized: SheetFrameDto, unit: DrawingUnit): SheetFrameDto {
  const { toDrawing } = placementOf(before, unit);
  const [x, y] = toDrawing(sized.leftMm + sized.widthMm / 2, sized.topMm + sized.heightMm / 2);
  return { ...sized, view: { ...sized.view, x, y } };
}

/** Pictures are drawn anew when nothing has changed for so long, ms. */
const QUIET_MS = 120;

function FramePicture({
  frame,
  pxPerMm,
  pictures,
}: Pick<FrameViewProps, 'frame' | 'pxPerMm' | 'pictures'>): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [state, setState] = useState<'drawing' | 'drawn' | 'failed'>('drawing');
  const ratio = Math.min(window.devicePixelRatio, 2);
  const widthPx = Math.max(Math.round(Math.max(frame.widthMm, LEAST_FRAME_MM) * pxPerMm * ratio), 1);
  const heightPx = Math.max(Math.round(Math.max(frame.heightMm, LEAST_FRAME_MM) * pxPerMm * ratio), 1);
  useEffect(() => {
    const calledOff = new AbortController();
    const timer = setTimeout(() => {
      setState('drawing');
      pictures.draw(frame, { widthPx, heightPx }, canvas.current!, calledOff.signal).then(
        () => setState('drawn'),
        () => {
          if (!calledOff.signal.aborted) setState('failed');
        },
      );
    }, QUIET_MS);
    return () => {
      clearTimeout(timer);
      calledOff.abort();
    };
  }, [frame, widthPx, heightPx, pictures]);
  return (
    <>
      <canvas ref={canvas} data-state={state} aria-hidden />
      {state === 'failed' && <p className="sheet-frame-trouble">The drawing’s tiles don’t come. Reload the page.</p>}
    </>
  );
}

const inkOf = ({ ink }: SheetPart): string => {
  const { r, g, b } = paperInks[ink];
  return `rgb(${r} ${g} ${b})`;
};

function PartView({ part }: { readonly part: SheetPart }): ReactElement {
  if (part.kind === 'text') {
    const [x, y] = part.at;
    return (
      <text
        x={x}
        y={y}
        fontSize={part.sizeMm}
        fontWeight={part.weight === 'bold' ? 700 : 400}
        fill={inkOf(part)}
        {...(part.isUpright ? { transform: `rotate(-90 ${x} ${y})` } : {})}
      >
        {part.text}
      </text>
    );
  }
  const points = part.points.map((point) => point.join(',')).join(' ');
  if (part.kind === 'area') return <polygon points={points} fill={inkOf(part)} />;
  const pen = {
    points,
    fill: 'none',
    stroke: inkOf(part),
    strokeWidth: part.widthMm,
    strokeDasharray: part.dashesMm.join(' '),
  };
  return part.isClosed ? <polygon {...pen} /> : <polyline {...pen} />;
}
