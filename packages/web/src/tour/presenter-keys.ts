/** What whoever presents can do. */
export type PresenterAct = 'next' | 'previous' | 'go' | 'first' | 'last' | 'dark' | 'caption' | 'leave';

const byKey: Readonly<Record<string, PresenterAct>> = {
  PageDown: 'next',
  ArrowRight: 'next',
  ArrowDown: 'next',
  Enter: 'next',
  n: 'next',
  PageUp: 'previous',
  ArrowLeft: 'previous',
  ArrowUp: 'previous',
  Backspace: 'previous',
  p: 'previous',
  ' ': 'go',
  Home: 'first',
  End: 'last',
  b: 'dark',
  '.': 'dark',
  c: 'caption',
  Escape: 'leave',
  F5: 'leave',
};

/** The keys that are told on the title page. A presenter's clicker sends PageDown, PageUp, a full stop, F5 or Escape. */
export const presenterKeys: readonly { readonly caps: readonly string[]; readonly does: string }[] = [
  { caps: ['→', 'Page down'], does: 'next stop' },
  { caps: ['←', 'Page up'], does: 'stop before' },
  { caps: ['Space'], does: 'play, pause; by hand: next' },
  { caps: ['Home', 'End'], does: 'first, last stop' },
  { caps: ['B', '.'], does: 'dark screen' },
  { caps: ['C'], does: 'caption on, off' },
  { caps: ['Esc'], does: 'leave' },
];

/** What a key means while presenting; null for nothing. */
export function presenterKeyOf(
  event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'altKey' | 'metaKey'>,
): PresenterAct | null {
  if (event.ctrlKey || event.altKey || event.metaKey) return null;
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  return byKey[key] ?? null;
}
