import { modifiersOf } from '@gull-pane/core/intent/samples';
import { partsOf, type Input } from '@gull-pane/core/intent/inputs';

/** How a key is written on its cap. */
const caps: Readonly<Record<string, string>> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ' ': 'Space',
  '-': '−',
  ContextMenu: 'Menu',
};

/** The caps of an input: the keys held with it and, if it has one, its own. `Shift+Backspace` is two. */
export function keyCaps(input: Input): string[] {
  const { modifiers, key } = partsOf(input);
  if (key === null) return [...modifiers];
  const cap = caps[key] ?? (key.length === 1 ? key.toUpperCase() : key);
  // what Shift makes of a key is on its cap already
  const isShifted = key.length === 1 && key.toUpperCase() === key.toLowerCase() && !/\d/.test(key);
  return [...(isShifted ? modifiers.filter((modifier) => modifier !== 'Shift') : modifiers), cap];
}

/** The same for `aria-keyshortcuts` (WAI-ARIA 1.2): names joined by plus signs, those of marks spelled out. */
export function ariaKeys(input: Input): string {
  const { modifiers, key } = partsOf(input);
  const named = key === ' ' ? 'Space' : key === '+' ? 'Plus' : key;
  return [...modifiers.map((modifier) => modifier.replace('Ctrl', 'Control')), ...(named === null ? [] : [named])].join(
    '+',
  );
}

type KeyPress = Pick<KeyboardEvent, 'key' | 'shiftKey' | 'ctrlKey' | 'altKey' | 'metaKey'> & { readonly code?: string };

/** What Shift makes of the digits on common keyboards, as far as nothing else is meant by it. */
const shiftedDigit = /^[!@#$%^&*()"§£`°]$/;

/** Undo, redo and printing, with Ctrl. */
const sameEverywhere: ReadonlySet<string> = new Set(['z', 'y', 'p']);

/** A key press as bindings write it; null if the browser or the system owns it. */
export function inputOfKey(press: KeyPress): Input | null {
  const [, digit] = /^Digit(\d)$/.exec(press.code ?? '') ?? [];
  const isDigit = digit !== undefined && press.shiftKey && shiftedDigit.test(press.key);
  const plain = isDigit ? digit : press.key.length === 1 ? press.key.toLowerCase() : press.key;
  const ctrl = press.ctrlKey || press.metaKey;
  if (press.altKey || (ctrl && !sameEverywhere.has(plain))) return null;
  return `${modifiersOf({ ctrl, alt: false, shift: press.shiftKey })}${plain}`;
}

export const isFunctionKey = (key: string): boolean => /^F\d{1,2}$/.test(key);

/** The keys that move a slider. */
const slides = /^(Arrow(Left|Right|Up|Down)|Home|End|PageUp|PageDown)$/;

/** Whether a key press belongs to what has the focus: typing, and the keys that widgets use themselves. */
export function isTakenByFocus(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  // function keys type nothing
  if (isFunctionKey(key)) return target.closest('[role="menu"], [role="dialog"]') !== null;
  if (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
    return !['checkbox', 'radio'].includes(target.getAttribute('type') ?? '') || key.startsWith('Arrow');
  if (target.getAttribute('role') === 'slider' && slides.test(key)) return true;
  const isWidget = target.closest('[role="menu"], [role="dialog"], [role="listbox"], [role="radiogroup"]') !== null;
  return isWidget || (key === ' ' && target.closest('button, [role="button"]') !== null);
}
