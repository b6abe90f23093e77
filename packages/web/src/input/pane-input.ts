import { frameCornersTool } from '@gull-pane/core/intent/frame-corners';
import { watch, watchAll, type Watcher } from '@gull-pane/core/intent/gesture-set';
import type { PointerButton, PointerSample, Sample } from '@gull-pane/core/intent/samples';
import { wheelButton } from '@gull-pane/core/intent/wheel-button';
import { notchesOf } from '@gull-pane/core/intent/wheel-notches';
import { wheelZoom } from '@gull-pane/core/intent/wheel-zoom';
import type { PaneStore, ToolName } from '../store/pane-store';

const buttons: readonly PointerButton[] = ['left', 'wheel', 'right'];
const tools: Readonly<Record<ToolName, () => Watcher>> = {
  none: () => () => ({ intents: [] }),
  frame: () => watch(frameCornersTool),
};

/**
 * Listens to what hands do over a pane and hands the intents to its store.
 * @returns a function that stops listening
 */
export function attachPaneInput(surface: HTMLElement, store: PaneStore): () => void {
  const navigation = watchAll([watch(wheelZoom), watch(wheelButton)]);
  let toolName = store.getState().tool;
  let tool = tools[toolName]();
  let timer: number | undefined;

  const feed = (sample: Sample): void => {
    if (store.getState().tool !== toolName) {
      toolName = store.getState().tool;
      tool = tools[toolName]();
    }
    const { intents, deadlineMs } = watchAll([navigation, tool])(sample);
    for (const intent of intents) store.getState().apply(intent, sample.timeMs);
    if (deadlineMs === undefined) return;
    window.clearTimeout(timer);
    timer = window.setTimeout(
      () => feed({ type: 'time', timeMs: performance.now() }),
      Math.max(deadlineMs - performance.now(), 0),
    );
  };

  const place = (event: MouseEvent): { x: number; y: number } => {
    const box = surface.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const pointer = (type: PointerSample['type']) => (event: PointerEvent) => {
    const at = place(event);
    store.getState().setCursor(at);
    if (type === 'down') {
      surface.focus({ preventScroll: true });
      surface.setPointerCapture(event.pointerId);
    }
    const button = type === 'move' ? 'none' : (buttons[event.button] ?? 'none');
    feed({ type, button, ...at, timeMs: event.timeStamp });
  };
  const wheel = (event: WheelEvent): void => {
    event.preventDefault(); // the page itself never scrolls or zooms over a pane
    feed({
      type: 'wheel',
      ...place(event),
      notches: notchesOf(event.deltaY, event.deltaMode),
      timeMs: event.timeStamp,
    });
  };
  const leave = (): void => store.getState().setCursor(null);
  const key = (event: KeyboardEvent): void => {
    if (event.key === 'Escape') feed({ type: 'escape', timeMs: event.timeStamp });
  };
  const prevent = (event: Event): void => event.preventDefault();
  // a pressed wheel would start the browser's own scrolling
  const preventWheelPress = (event: MouseEvent): void => {
    if (event.button === 1) event.preventDefault();
  };

  const listeners: [string, (event: never) => void, AddEventListenerOptions?][] = [
    ['pointerdown', pointer('down')],
    ['pointermove', pointer('move')],
    ['pointerup', pointer('up')],
    ['pointercancel', pointer('cancel')],
    ['pointerleave', leave],
    ['wheel', wheel, { passive: false }],
    ['mousedown', preventWheelPress],
    ['auxclick', prevent],
    ['contextmenu', prevent],
  ];
  for (const [name, listener, options] of listeners) surface.addEventListener(name, listener as EventListener, options);
  window.addEventListener('keydown', key);
  return () => {
    for (const [name, listener] of listeners) surface.removeEventListener(name, listener as EventListener);
    window.removeEventListener('keydown', key);
    window.clearTimeout(timer);
  };
}
