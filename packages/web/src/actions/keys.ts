import type { Action } from './action';

/** How a key is written on its cap. */
const caps: Readonly<Record<string, string>> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ' ': 'Space',
  '-': '−',
};

/** The caps of a key as actions name it: `Shift+Backspace` is two. */
export function keyCaps(key: string): string[] {
  const isShifted = key.startsWith('Shift+') && key.length > 6;
  const plain = isShifted ? key.slice(6) : key;
  const cap = caps[plain] ?? (plain.length === 1 ? plain.toUpperCase() : plain);
  return isShifted ? ['Shift', cap] : [cap];
}

type KeyPress = Pick<KeyboardEvent, 'key' | 'shiftKey' | 'ctrlKey' | 'altKey' | 'metaKey'>;

/** The action that a key press means, if any; keys with Ctrl, Alt or Meta are the browser's. */
export function actionOfKey(actions: readonly Action[], press: KeyPress): Action | undefined {
  if (press.ctrlKey || press.altKey || press.metaKey) return undefined;
  const plain = press.key.length === 1 ? press.key.toLowerCase() : press.key;
  const name = press.shiftKey ? `Shift+${plain}` : plain;
  return actions.find(({ keys }) => keys.includes(name));
}

/** Whether a key press belongs to what has the focus: typing, and the keys that widgets use themselves. */
export function isTakenByFocus(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
    return target.getAttribute('type') !== 'checkbox';
  const isWidget = target.closest('[role="menu"], [role="dialog"], [role="listbox"]') !== null;
  return isWidget || (key === ' ' && target.closest('button, [role="button"]') !== null);
}
