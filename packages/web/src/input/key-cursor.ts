import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { moveKeyCursor, stepPx } from '@gull-pane/core/intent/key-cursor';
import { modifiersOf } from '@gull-pane/core/intent/samples';
import type { ActionTarget } from '../actions/action';
import { isTakenByFocus } from '../actions/keys';
import type { PaneHands } from './pane-hands';

const ways: Readonly<Record<string, Vec2>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

/**
 * While the keyboard cursor is on, arrow keys lead it over the active pane and the space bar clicks: every tool is used
 * as with a mouse, snaps included. With Shift an arrow moves it by one px.
 * @returns a function that stops listening
 */
export function attachKeyCursor(
  { pane, ui, stance }: Pick<ActionTarget, 'pane' | 'ui' | 'stance'>,
  hands: PaneHands,
): () => void {
  const lead = (way: Vec2, isFine: boolean, timeMs: number): void => {
    const { keyCursor } = ui.getState();
    const { cursor, viewport, camera } = pane.getState();
    const from = cursor ?? { x: viewport.widthPx / 2, y: viewport.heightPx / 2 };
    const by = isFine ? 1 : stepPx(keyCursor!, camera.unitsPerPx);
    const { at, pan } = moveKeyCursor(from, { x: way.x * by, y: way.y * by }, viewport);
    if (pan.x !== 0 || pan.y !== 0)
      pane.getState().apply({ kind: 'pan', dx: pan.x, dy: pan.y, within: 'burst' }, timeMs);
    pane.getState().setCursor(at);
    hands.feed({ type: 'move', button: 'none', ...at, timeMs });
  };
  const click = ({ shiftKey: shift, ctrlKey: ctrl, timeStamp: timeMs }: KeyboardEvent): void => {
    const { cursor } = pane.getState();
    if (!cursor) return;
    const modifiers = modifiersOf({ ctrl, alt: false, shift });
    for (const type of ['down', 'up'] as const) hands.feed({ type, button: 'left', ...cursor, modifiers, timeMs });
  };
  const press = (event: KeyboardEvent): void => {
    if (ui.getState().keyCursor === null || stance.getState().walker || event.altKey || event.metaKey) return;
    if (isTakenByFocus(event.target, event.key)) return;
    const way = ways[event.key];
    if (!way && event.key !== ' ') return;
    // their other meaning, moving the view, waits until the cursor is put away
    event.preventDefault();
    event.stopPropagation();
    if (way) lead(way, event.shiftKey, event.timeStamp);
    else if (!event.repeat) click(event);
  };
  window.addEventListener('keydown', press, true);
  return () => window.removeEventListener('keydown', press, true);
}
