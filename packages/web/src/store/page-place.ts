/** Where in the state of the browser's history entry the page keeps what its address doesn't tell. */
const KEPT = 'gullPane';
/** Where in the window's session storage the page that was left last stands. */
const LEFT = 'gull-pane-left';

interface LeftPage {
  readonly path: string;
  readonly kept: unknown;
}

/** What the page's entry in the browser's history keeps; undefined if nothing. */
export function keptInHistory(): unknown {
  const state: unknown = history.state;
  return typeof state === 'object' && state !== null ? (state as Record<string, unknown>)[KEPT] : undefined;
}

/** Keeps the page's address and what it doesn't tell in the browser's history, so that a reload brings them back. */
export function keepInHistory(path: string, kept: unknown): void {
  const state = { ...(history.state as object | null) };
  history.replaceState({ ...state, [KEPT]: kept }, '', path);
}

/**
 * Keeps the same while the page is being left. A reload that has begun may have read the history entry already, so
 * that it would bring back what stood there before.
 */
export function keepOnLeaving(path: string, kept: unknown): void {
  try {
    sessionStorage.setItem(LEFT, JSON.stringify({ path, kept } satisfies LeftPage));
  } catch {
    // no room, or storage is switched off: the history entry has to do
  }
}

/** Writes what the page kept on leaving into the history entry if this is its reload. To be called once, first of all. */
export function takeUpLeftPage(): void {
  try {
    const text = sessionStorage.getItem(LEFT);
    sessionStorage.removeItem(LEFT);
    const [entry] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
    if (text === null || entry?.type !== 'reload') return;
    const { path, kept } = JSON.parse(text) as LeftPage;
    if (new URL(path, location.href).pathname === location.pathname) keepInHistory(path, kept);
  } catch {
    // storage is switched off
  }
}
