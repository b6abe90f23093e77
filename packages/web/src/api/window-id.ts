const KEPT = 'gull-pane-window';

let own: string | undefined;

/** Names this window for as long as it is open, also over reloads. */
export function windowId(): string {
  if (own !== undefined) return own;
  own = crypto.randomUUID();
  try {
    const kept = sessionStorage.getItem(KEPT);
    if (kept === null) sessionStorage.setItem(KEPT, own);
    else own = kept;
  } catch {
    // storage is switched off: until the next reload then
  }
  return own;
}
