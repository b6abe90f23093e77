import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import type { Divider } from '@gull-pane/core/panes/tiling';
import type { PanesStore } from '../store/panes-store';

/** The divider is so wide for hands, CSS px. */
const GRIP_PX = 8;
/** An arrow key moves it so far, with Shift so far, CSS px. */
const STEP_PX = { fine: 16, coarse: 80 } as const;

/** What lies between panes: dragged, moved by arrow keys, made even by a double click or Enter. */
export function PaneDivider({
  panes,
  divider,
}: {
  readonly panes: PanesStore;
  readonly divider: Divider;
}): ReactElement {
  const [isDragged, setDragged] = useState(false);
  const grabbed = useRef(0);
  const isUpright = divider.along === 'row';
  const { x, y, width, height } = divider.area;
  const at = isUpright ? x : y;
  const grip = isUpright
    ? { left: x - (GRIP_PX - width) / 2, top: y, width: GRIP_PX, height }
    : { left: x, top: y - (GRIP_PX - height) / 2, width, height: GRIP_PX };
  const placeOf = (event: PointerEvent): number => (isUpright ? event.clientX : event.clientY);
  const press = (event: PointerEvent<HTMLElement>): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    grabbed.current = placeOf(event) - at;
    setDragged(true);
  };
  const move = (event: PointerEvent<HTMLElement>): void => {
    if (isDragged) panes.getState().drag(divider, placeOf(event) - grabbed.current);
  };
  const key = (event: KeyboardEvent): void => {
    const [less, more] = isUpright ? ['ArrowLeft', 'ArrowRight'] : ['ArrowUp', 'ArrowDown'];
    const step = event.shiftKey ? STEP_PX.coarse : STEP_PX.fine;
    if (event.key === less) panes.getState().drag(divider, at - step);
    else if (event.key === more) panes.getState().drag(divider, at + step);
    else if (event.key === 'Home') panes.getState().drag(divider, divider.least);
    else if (event.key === 'End') panes.getState().drag(divider, divider.most);
    else if (event.key === 'Enter') panes.getState().even(divider);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      className="pane-divider"
      role="separator"
      tabIndex={0}
      aria-label={isUpright ? 'Divider between panes side by side' : 'Divider between panes one above the other'}
      aria-orientation={isUpright ? 'vertical' : 'horizontal'}
      aria-valuenow={at}
      aria-valuemin={divider.least}
      aria-valuemax={divider.most}
      data-dragged={isDragged}
      style={grip}
      onPointerDown={press}
      onPointerMove={move}
      onPointerUp={() => setDragged(false)}
      onPointerCancel={() => setDragged(false)}
      onDoubleClick={() => panes.getState().even(divider)}
      onKeyDown={key}
    />
  );
}
