import { modifiersOf, type Finger, type PointerButton, type PointerSample } from '@gull-pane/core/intent/samples';
import { notchesOf, pinchOf, wheelPx } from '@gull-pane/core/intent/wheel-notches';
import type { PaneStore } from '../store/pane-state';
import type { PaneHands } from './pane-hands';

const buttons: readonly PointerButton[] = ['left', 'wheel', 'right', 'back', 'forward'];

/**
 * Listens to what hands do over a pane and hands it on as samples.
 * @param isActive whether keys are for this pane
 * @returns a function that stops listening
 */
export function attachPaneInput(
  surface: HTMLElement,
  store: PaneStore,
  { feed, stop, takesDigits }: PaneHands,
  isActive: () => boolean,
): () => void {
  const fingers = new Map<number, Finger>();
  /** Whether Ctrl is really down: browsers tell a pinch as a wheel with Ctrl. */
  let isCtrlDown = false;

  const place = (event: MouseEvent): { x: number; y: number } => {
    const box = surface.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const modifiers = ({ ctrlKey, altKey, shiftKey }: MouseEvent): string =>
    modifiersOf({ ctrl: ctrlKey, alt: altKey, shift: shiftKey });
  const touch = (event: PointerEvent, isThere: boolean): void => {
    if (isThere) fingers.set(event.pointerId, { id: event.pointerId, ...place(event) });
    else fingers.delete(event.pointerId);
    feed({ type: 'touch', fingers: [...fingers.values()], timeMs: event.timeStamp });
  };
  const pointer = (type: PointerSample['type']) => (event: PointerEvent) => {
    if (isForHandle(event, surface)) return;
    const at = place(event);
    store.getState().setCursor(event.pointerType === 'touch' && type !== 'move' && type !== 'down' ? null : at);
    if (type === 'down') {
      surface.focus({ preventScroll: true });
      surface.setPointerCapture(event.pointerId);
    }
    if (event.pointerType === 'touch') {
      touch(event, type === 'down' || type === 'move');
      return;
    }
    // further buttons of a pressed mouse come as moves (Pointer Events 3, 4.1.1.1)
    const isChange = type === 'move' && event.button >= 0;
    const kind = isChange ? ((event.buttons & (1 << heldBit[event.button]!)) > 0 ? 'down' : 'up') : type;
    const button = kind === 'move' ? 'none' : (buttons[event.button] ?? 'none');
    feed({ type: kind, button, ...at, modifiers: modifiers(event), timeMs: event.timeStamp });
  };
  const wheel = (event: WheelEvent): void => {
    event.preventDefault(); // the page itself never scrolls or zooms over a pane
    const { deltaX, deltaY, deltaMode, timeStamp: timeMs } = event;
    const isPinch = event.ctrlKey && !isCtrlDown;
    const base = { type: 'wheel', ...place(event), timeMs } as const;
    if (isPinch) feed({ ...base, notches: 0, pinch: pinchOf(deltaY) });
    else {
      const byPx = { x: wheelPx(deltaX, deltaMode), y: wheelPx(deltaY, deltaMode) };
      feed({ ...base, notches: notchesOf(deltaY, deltaMode), byPx, modifiers: modifiers(event) });
    }
  };
  const leave = (): void => store.getState().setCursor(null);
  const key = (event: KeyboardEvent): void => {
    isCtrlDown = event.ctrlKey;
    if (event.type !== 'keydown' || event.defaultPrevented || !isActive()) return;
    if (event.target instanceof HTMLElement && event.target.closest('[role="dialog"], [role="menu"], input')) return;
    const isDigit = /^\d$/.test(event.key) && !event.ctrlKey && !event.altKey && !event.metaKey;
    if (isDigit && takesDigits()) {
      event.preventDefault(); // it is no direction now
      feed({ type: 'digit', digit: Number(event.key), timeMs: event.timeStamp });
    }
    if (event.key === 'Escape') feed({ type: 'escape', timeMs: event.timeStamp });
    if (event.key === 'Enter' && event.target === surface) feed({ type: 'enter', timeMs: event.timeStamp });
  };
  const prevent = (event: Event): void => event.preventDefault();
  // a pressed wheel would start the browser's own scrolling, the buttons at the side its own history
  const preventOwn = (event: MouseEvent): void => {
    if (event.button === 1 || event.button > 2) event.preventDefault();
  };

  const listeners: [string, (event: never) => void, AddEventListenerOptions?][] = [
    ['pointerdown', pointer('down')],
    ['pointermove', pointer('move')],
    ['pointerup', pointer('up')],
    ['pointercancel', pointer('cancel')],
    ['pointerleave', leave],
    ['wheel', wheel, { passive: false }],
    ['mousedown', preventOwn],
    ['mouseup', preventOwn],
    ['auxclick', prevent],
    ['contextmenu', prevent],
  ];
  for (const [name, listener, options] of listeners) surface.addEventListener(name, listener as EventListener, options);
  window.addEventListener('keydown', key);
  window.addEventListener('keyup', key);
  return () => {
    for (const [name, listener] of listeners) surface.removeEventListener(name, listener as EventListener);
    window.removeEventListener('keydown', key);
    window.removeEventListener('keyup', key);
    stop();
  };
}

/** Whether a press, and what follows while it lasts, belongs to a handle that lies over the drawing: a grip, a clip's side. */
function isForHandle({ target, button, buttons: held, pointerType }: PointerEvent, surface: HTMLElement): boolean {
  const handle =
    target instanceof Element ? target.closest('[role="button"], [role="slider"], button, input, a') : null;
  if (handle === null || !surface.contains(handle)) return false;
  return button === 0 || (held & 1) > 0 || pointerType === 'touch';
}

/** Which bit of `buttons` stands for which `button` (UI Events, MouseEvent). */
const heldBit: readonly number[] = [0, 2, 1, 3, 4];
