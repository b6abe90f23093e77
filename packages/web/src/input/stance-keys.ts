import { isTakenByFocus } from '../actions/keys';
import type { StanceStore, WalkKey } from '../store/stance-store';

const walkKeys: Readonly<Record<string, WalkKey>> = {
  ArrowUp: 'ahead',
  ArrowDown: 'back',
  ArrowLeft: 'turn-left',
  ArrowRight: 'turn-right',
  PageUp: 'rise',
  PageDown: 'sink',
};
/** With Shift the keys that turn go aside. */
const aside: Partial<Record<WalkKey, WalkKey>> = { 'turn-left': 'left', 'turn-right': 'right' };

/**
 * While a person stands in the model, the arrows and the page keys walk, turn, rise and sink as long as they are held.
 * @returns a function that stops listening
 */
export function attachStanceKeys(stance: StanceStore): () => void {
  const down = new Set<string>();
  const tell = (isShifted: boolean): void => {
    const held = new Set<WalkKey>();
    for (const name of down) {
      const key = walkKeys[name]!;
      held.add((isShifted && aside[key]) || key);
    }
    if (isShifted && (held.has('ahead') || held.has('back'))) held.add('fast');
    stance.getState().holdKeys(held);
  };
  const press = (event: KeyboardEvent): void => {
    if (!stance.getState().walker || event.ctrlKey || event.altKey || event.metaKey) return;
    if (event.key === 'Shift' && down.size > 0) tell(true);
    if (!(event.key in walkKeys) || isTakenByFocus(event.target, event.key)) return;
    // the keys' other meanings, moving the view, wait until one has left
    event.preventDefault();
    down.add(event.key);
    tell(event.shiftKey);
  };
  const release = (event: KeyboardEvent): void => {
    if (event.key === 'Shift' && down.size > 0) tell(false);
    if (down.delete(event.key)) tell(event.shiftKey);
  };
  const letGo = (): void => {
    if (down.size === 0) return;
    down.clear();
    tell(false);
  };
  window.addEventListener('keydown', press, true);
  window.addEventListener('keyup', release, true);
  window.addEventListener('blur', letGo);
  return () => {
    letGo();
    window.removeEventListener('keydown', press, true);
    window.removeEventListener('keyup', release, true);
    window.removeEventListener('blur', letGo);
  };
}
