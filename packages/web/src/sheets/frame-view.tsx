import type { ReactElement } from 'react';
import { movedView, standingView } from '@gull-pane/core/sheets/frame-camera';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import { FramePicture } from './frame-picture';
import type { FramePictures } from './frame-pictures';
import { GRID_MM, movedFrame, noGuides, sizedFrame, type Corner, type Guides, type Placed } from './move-frame';
import { byArrowKeys, useDrag } from './use-drag';

interface FrameViewProps {
  /** As it is kept: grips count from there. */
  readonly frame: SheetFrameDto;
  /** As it is while it is dragged. */
  readonly shown: SheetFrameDto;
  readonly name: string;
  readonly unit: DrawingUnit;
  readonly pxPerMm: number;
  readonly pictures: FramePictures;
  readonly guides: Guides;
  readonly isChosen: boolean;
  readonly hasHandles: boolean;
  readonly onChoose: () => void;
  /** While it is dragged; null where that was called off. */
  readonly onDrag: (placed: Placed<SheetFrameDto> | null) => void;
  readonly onChange: (frame: SheetFrameDto, what: string) => void;
}

/** So far an arrow key moves what a frame shows, mm on paper. */
const STEP_MM = 5;

type Grip = 'view' | 'place' | Corner;
const corners = ['upper left', 'upper right', 'lower right', 'lower left'] as const satisfies readonly Corner[];
const nothing = { x: [], y: [] };

/** A view on a sheet: dragging it moves what it shows, its grips move and size it. */
export function FrameView(props: FrameViewProps): ReactElement {
  const { frame, shown, name, unit, pxPerMm, isChosen, hasHandles } = props;
  const placed = (grip: Grip, way: readonly [number, number], guides: Guides): Placed<SheetFrameDto> => {
    if (grip === 'view') return { rect: { ...frame, view: movedView(frame, unit, ...way) }, onto: nothing };
    if (grip === 'place') return movedFrame(frame, frame, way, guides);
    const { rect, onto } = sizedFrame(frame, grip, way, guides);
    // what is shown stays where it was on the paper
    return { rect: { ...rect, view: standingView(frame, rect, unit) }, onto };
  };
  const wordOf = (grip: Grip): string =>
    grip === 'view' ? 'view moved' : grip === 'place' ? 'frame moved' : 'frame sized';
  const dragWith = useDrag<Grip>({
    pxPerMm,
    onBegin: props.onChoose,
    onDrag: (grip, way) => props.onDrag(placed(grip, way, props.guides)),
    onDrop: (grip, way) => props.onChange(placed(grip, way, props.guides).rect, wordOf(grip)),
    onCancel: () => props.onDrag(null),
  });
  const keysOf = (grip: Grip, stepMm: number) =>
    byArrowKeys(stepMm, ([right, down]) => {
      // arrows look to their side: what is shown moves the other way
      const sign = grip === 'view' ? -1 : 1;
      props.onChange(placed(grip, [right * sign, down * sign], noGuides).rect, wordOf(grip));
    });
  const style = {
    left: shown.leftMm * pxPerMm,
    top: shown.topMm * pxPerMm,
    width: shown.widthMm * pxPerMm,
    height: shown.heightMm * pxPerMm,
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
        <FramePicture frame={shown} pxPerMm={pxPerMm} pictures={props.pictures} />
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
