import { useEffect, useRef, useState, type ReactElement } from 'react';
import { blockSize } from '@gull-pane/core/sheets/block-parts';
import { guideLinesOf, type GuideLines } from '@gull-pane/core/sheets/guides';
import { sheetParts, type SheetSetContent } from '@gull-pane/core/sheets/sheet-parts';
import { viewAreaOf } from '@gull-pane/core/sheets/sheet';
import type { PaperSheetDto, SheetBlockDto, SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import { BlockView } from './block-view';
import type { FramePictures } from './frame-pictures';
import { FrameView } from './frame-view';
import type { Guides, Placed } from './move-frame';
import { PartView } from './part-view';

interface PaperViewProps {
  readonly content: Omit<SheetSetContent, 'sheets'> & { readonly sheets: readonly PaperSheetDto[] };
  readonly index: number;
  readonly pictures: FramePictures;
  /** Index of the frame that fields and keys work on. */
  readonly chosen: number;
  readonly onChoose: (frame: number) => void;
  /** @param what names the change for its undo */
  readonly onChange: (frame: number, changed: SheetFrameDto, what: string) => void;
  readonly onBlocks: (blocks: SheetBlockDto[], what: string) => void;
}

/** What is dragged is drawn to guides from so far, CSS px. */
const REACH_PX = 6;

interface Dragged {
  readonly frame?: number;
  readonly block?: number;
  readonly placed: Placed<SheetFrameDto> | Placed<SheetBlockDto>;
}

/** A sheet as it will be: its views, which are dragged to show something else, and all that it draws itself. */
export function PaperView(props: PaperViewProps): ReactElement {
  const { content, index, pictures, chosen } = props;
  const sheet = content.sheets[index]!;
  const desk = useRef<HTMLDivElement>(null);
  const pxPerMm = useFit(desk, sheet.paper.widthMm, sheet.paper.heightMm);
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const frames = sheet.frames.map((frame, k) =>
    dragged?.frame === k ? (dragged.placed.rect as SheetFrameDto) : frame,
  );
  const blocks = (sheet.blocks ?? []).map((block, k) =>
    dragged?.block === k ? (dragged.placed.rect as SheetBlockDto) : block,
  );
  const shown = content.sheets.map((one, k) => (k === index ? { ...one, frames, blocks } : one));
  const parts = sheetParts({ ...content, sheets: shown }, index);
  const { widthMm, heightMm } = sheet.paper;
  const sizeOf = ({ kind }: SheetBlockDto) => blockSize(kind, content, index);
  /** Lines of everything but what is dragged. */
  const guidesBut = (frame: number, block: number): Guides => ({
    reachMm: REACH_PX / pxPerMm,
    lines: guideLinesOf([
      viewAreaOf(sheet.paper),
      ...sheet.frames.filter((_, k) => k !== frame),
      ...(sheet.blocks ?? []).filter((_, k) => k !== block).map((one) => ({ ...one, ...sizeOf(one) })),
    ]),
  });
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
              // its grips count from where it was when the drag began
              frame={dragged?.frame === k ? sheet.frames[k]! : frame}
              shown={frame}
              name={`View ${k + 1} of ${sheet.name}`}
              unit={content.unit}
              pxPerMm={pxPerMm}
              pictures={pictures}
              guides={guidesBut(k, -1)}
              isChosen={k === chosen && frames.length > 1}
              hasHandles={k === chosen}
              onChoose={() => props.onChoose(k)}
              onDrag={(placed) => setDragged(placed && { frame: k, placed })}
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
            {dragged && <GuidesView lines={dragged.placed.onto} widthMm={widthMm} heightMm={heightMm} />}
          </svg>
          {(sheet.blocks ?? []).map((block, k) => (
            <BlockView
              key={k}
              block={block}
              size={sizeOf(block)}
              pxPerMm={pxPerMm}
              guides={guidesBut(-1, k)}
              onDrag={(placed) => setDragged(placed && { block: k, placed })}
              onChange={(changed) => {
                setDragged(null);
                props.onBlocks(
                  (sheet.blocks ?? []).map((one, other) => (other === k ? changed : one)),
                  'block moved',
                );
              }}
            />
          ))}
        </div>
      )}
    </div>
  );
}

function GuidesView({
  lines,
  widthMm,
  heightMm,
}: {
  readonly lines: GuideLines;
  readonly widthMm: number;
  readonly heightMm: number;
}): ReactElement {
  return (
    <g className="sheet-guides">
      {lines.x.map((x) => (
        <line key={`x${x}`} x1={x} x2={x} y1={0} y2={heightMm} />
      ))}
      {lines.y.map((y) => (
        <line key={`y${y}`} x1={0} x2={widthMm} y1={y} y2={y} />
      ))}
    </g>
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
