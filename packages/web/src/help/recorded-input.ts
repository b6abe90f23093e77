import { modifiersOf } from '@gull-pane/core/intent/samples';
import type { Input } from '@gull-pane/core/intent/inputs';
import { inputOfKey } from '../actions/keys';

const buttons: readonly string[] = ['left', 'wheel', 'right', 'back', 'forward'];
/** A press that moves so far is a drag, CSS px. */
const DRAG_PX = 6;
/** A second press within this makes it a double one, ms. */
const DOUBLE_MS = 350;
/** A key that is down so long is meant to be held. */
const HOLD_MS = 450;

/** Keys that mean something by themselves everywhere. */
const reserved: ReadonlySet<string> = new Set(['Escape', 'Enter', 'Tab', 'Shift', 'Control', 'Alt', 'Meta']);

/**
 * Listens to what a person presses over an area and tells it as bindings write it.
 * @param isLasting whether a movement is bound: then a key is held, else it is pressed
 * @param onDone null if the person gave up
 * @returns a function that stops listening
 */
export function recordInput(area: HTMLElement, isLasting: boolean, onDone: (input: Input | null) => void): () => void {
  let down: { button: string; modifiers: string; x: number; y: number } | null = null;
  let waiting: { input: string; timer: number } | null = null;
  let key: { input: string; timer: number } | null = null;

  const modifiersIn = ({ ctrlKey, altKey, shiftKey }: MouseEvent): string =>
    modifiersOf({ ctrl: ctrlKey, alt: altKey, shift: shiftKey });
  const done = (input: Input | null): void => {
    stop();
    onDone(input);
  };
  const press = (event: PointerEvent): void => {
    event.preventDefault();
    area.setPointerCapture(event.pointerId);
    const button = event.pointerType === 'touch' ? 'finger' : (buttons[event.button] ?? 'left');
    down = { button, modifiers: modifiersIn(event), x: event.clientX, y: event.clientY };
  };
  const release = (event: PointerEvent): void => {
    if (!down) return;
    const { button, modifiers, x, y } = down;
    down = null;
    if (Math.hypot(event.clientX - x, event.clientY - y) > DRAG_PX) {
      if (isLasting) done(button === 'finger' ? 'finger' : `${modifiers}drag:${button}`);
      return;
    }
    if (isLasting) return; // a movement needs a drag
    const input = `${modifiers}press:${button}`;
    if (waiting?.input === input) {
      window.clearTimeout(waiting.timer);
      done(`${modifiers}double:${button}`);
      return;
    }
    waiting = { input, timer: window.setTimeout(() => done(input), DOUBLE_MS) };
  };
  const turn = (event: WheelEvent): void => {
    event.preventDefault();
    event.stopPropagation();
    if (isLasting) done(`${modifiersIn(event)}turn`);
  };
  const keyDown = (event: KeyboardEvent): void => {
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape') done(null);
    const input = reserved.has(event.key) ? null : inputOfKey(event);
    if (input === null || key) return;
    if (isLasting) key = { input, timer: window.setTimeout(() => done(`hold:${input}`), HOLD_MS) };
    else done(input);
  };
  const keyUp = (): void => {
    if (key) window.clearTimeout(key.timer);
    key = null;
  };
  const prevent = (event: Event): void => event.preventDefault();

  const listeners: [EventTarget, string, (event: never) => void][] = [
    [area, 'pointerdown', press],
    [area, 'pointerup', release],
    [area, 'contextmenu', prevent],
    [area, 'auxclick', prevent],
    [area, 'wheel', turn],
    [window, 'keydown', keyDown],
    [window, 'keyup', keyUp],
  ];
  for (const [at, name, listener] of listeners)
    at.addEventListener(name, listener as EventListener, { capture: true, passive: false });
  function stop(): void {
    for (const [at, name, listener] of listeners)
      at.removeEventListener(name, listener as EventListener, { capture: true });
    keyUp();
    if (waiting) window.clearTimeout(waiting.timer);
  }
  return stop;
}
