import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { handsAction, keysAction } from '../actions/help-actions';
import { shareAction } from '../actions/share-actions';

/** Opens what is told to others, and what tells and sets how hands move the view. */
export function HelpButtons({ target }: { readonly target: ActionTarget }): ReactElement {
  const panel = useStore(target.ui, (state) => state.panel);
  return (
    <div role="group" aria-label="Share, hands and keys" className="help-buttons">
      {[shareAction, handsAction, keysAction].map((action) => (
        <ActionTip key={action.id} {...action} actionId={action.id} placement="bottomRight">
          <button
            type="button"
            className="icon-button"
            aria-label={action.name}
            aria-expanded={panel === action.id}
            onClick={() => action.run(target)}
          >
            <action.icon size={18} aria-hidden />
          </button>
        </ActionTip>
      ))}
    </div>
  );
}
