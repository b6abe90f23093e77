import { useEffect } from 'react';
import { actionById } from './all-actions';
import { canRun, type ActionTarget } from './action';
import { bindingsInUse } from './bindings';
import { inputOfKey, isFunctionKey, isTakenByFocus } from './keys';

/** A key that borrows a movement is a mere press if it comes up so soon and nothing was done with it, ms. */
const TAP_MS = 300;

/** What keys that borrow a movement do. */
export interface Borrowing {
  /** @param key null when it comes up @returns whether a hand used it since it went down */
  hold(key: string | null, timeMs: number): boolean;
}

/** Listens to the keys of actions, and to those that borrow a movement, while the page is open. */
export function useActionKeys(target: ActionTarget, borrowing: Borrowing): void {
  useEffect(() => {
    let held: { readonly key: string; readonly sinceMs: number } | null = null;
    const run = (input: string): boolean => {
      const action = actionById.get(bindingsInUse().acts.get(input) ?? '');
      if (!action) return false;
      if (canRun(action, target)) action.run(target);
      return true;
    };
    const press = (event: KeyboardEvent): void => {
      if (event.defaultPrevented || isTakenByFocus(event.target, event.key)) return;
      const input = inputOfKey(event);
      if (input === null) return;
      if (bindingsInUse().acts.has(`hold:${input}`)) {
        event.preventDefault();
        if (held || event.repeat) return;
        held = { key: input, sinceMs: event.timeStamp };
        borrowing.hold(input, event.timeStamp);
        return;
      }
      // a name that is being typed is kept first
      if (isFunctionKey(event.key) && document.activeElement instanceof HTMLInputElement) document.activeElement.blur();
      if (run(input)) event.preventDefault();
    };
    const release = (event: KeyboardEvent): void => {
      if (!held || event.key.toLowerCase() !== held.key.toLowerCase()) return;
      const { key, sinceMs } = held;
      held = null;
      const wasUsed = borrowing.hold(null, event.timeStamp);
      if (!wasUsed && event.timeStamp - sinceMs < TAP_MS) run(key);
    };
    const letGo = (): void => {
      if (held) borrowing.hold(null, performance.now());
      held = null;
    };
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', release);
    window.addEventListener('blur', letGo);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', release);
      window.removeEventListener('blur', letGo);
    };
  }, [target, borrowing]);
}
