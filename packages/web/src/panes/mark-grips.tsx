import { useState, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { cameraAxes, worldToScreen } from '@gull-pane/core/camera/camera';
import { along3, type Vec2, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { Mark } from '@gull-pane/core/marks/mark';
import { isMarkShown } from '@gull-pane/core/view/shown';
import type { Parts } from '../actions/action';
import type { ExactFeatures } from '../snapping/exact-features';
import { findSnaps, placeUnder } from '../snapping/find-snaps';
import { toolInHand } from '../store/tool-store';

/** Grips are for a few marks: of more they would hide the drawing. */
const MOST_MARKS = 12;
const HALF_PX = 4;
/** An arrow key moves a grip so far, CSS px. */
const KEY_PX = 1;

interface GripsProps {
  readonly target: Parts<'pane' | 'drawing' | 'seen' | 'asked' | 'marks' | 'tools'>;
  readonly features: ExactFeatures;
}

/** The points of chosen marks, each with a grip that moves it. */
export function MarkGrips({ target, features }: GripsProps): ReactElement | null {
  const { marks, pane, tools } = target;
  const all = useStore(marks, (state) => state.marks);
  const chosen = useStore(marks, (state) => state.chosen);
  const isIdle = useStore(tools, (state) => toolInHand(state) === null);
  const viewport = useStore(pane, (state) => state.viewport);
  const shown = useStore(pane, (state) => state.shown);
  if (!isIdle || chosen.size === 0 || chosen.size > MOST_MARKS) return null;
  return (
    <svg className="mark-grips" width={viewport.widthPx} height={viewport.heightPx}>
      {all
        .filter((mark) => chosen.has(mark.id) && isMarkShown(shown, mark))
        .flatMap((mark) =>
          mark.points.map((_, index) => <Grip key={`${mark.id} ${index}`} {...{ target, features, mark, index }} />),
        )}
    </svg>
  );
}

function Grip({
  target,
  features,
  mark,
  index,
}: GripsProps & { readonly mark: Mark; readonly index: number }): ReactElement | null {
  const { pane, marks } = target;
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const [to, setTo] = useState<Vec3 | null>(null);
  const { x, y } = worldToScreen(camera, viewport, to ?? mark.points[index]!);
  if (Number.isNaN(x)) return null;
  const placeAt = async (at: Vec2): Promise<Vec3 | null> => {
    const [snap] = await findSnaps(target, features, at);
    return snap?.point ?? placeUnder(target, at);
  };
  const at = (event: PointerEvent<SVGRectElement>): Vec2 => {
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
    return { x: event.clientX - box.x, y: event.clientY - box.y };
  };
  const isHeld = (event: PointerEvent<SVGRectElement>): boolean =>
    event.currentTarget.hasPointerCapture(event.pointerId);
  const nudge = (event: KeyboardEvent): void => {
    const { right, up } = cameraAxes(camera);
    const step = KEY_PX * camera.unitsPerPx;
    const ways: Readonly<Record<string, readonly [Vec3, number]>> = {
      ArrowLeft: [right, -step],
      ArrowRight: [right, step],
      ArrowUp: [up, step],
      ArrowDown: [up, -step],
    };
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    marks.getState().movePoint(mark.id, index, along3(mark.points[index]!, ...way));
  };
  return (
    <rect
      className="mark-grip"
      role="button"
      tabIndex={0}
      aria-label={`Point ${index + 1} of the ${mark.kind === 'chain' ? 'polyline' : mark.kind}`}
      x={x - HALF_PX}
      y={y - HALF_PX}
      width={2 * HALF_PX}
      height={2 * HALF_PX}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (!isHeld(event)) return;
        event.stopPropagation();
        void placeAt(at(event)).then(setTo);
      }}
      onPointerUp={(event) => {
        if (!isHeld(event)) return;
        event.stopPropagation();
        const place = at(event);
        void placeAt(place).then((found) => {
          if (found && to) marks.getState().movePoint(mark.id, index, found);
          setTo(null);
        });
      }}
      onKeyDown={nudge}
    />
  );
}
