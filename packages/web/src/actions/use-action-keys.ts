import { useEffect } from 'react';
import type { Action, ActionTarget } from './action';
import { actionOfKey, isTakenByFocus } from './keys';

/** Listens to the keys of actions while the page is open. */
export function useActionKeys(actions: readonly Action[], target: ActionTarget): void {
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (event.defaultPrevented || isTakenByFocus(event.target, event.key)) return;
      const action = actionOfKey(actions, event);
      if (!action) return;
      event.preventDefault();
      if (action.isEnabled?.(target) !== false) action.run(target);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [actions, target]);
}
