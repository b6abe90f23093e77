import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { handsAction, keysAction } from '../actions/help-actions';
import { shareAction } from '../actions/share-actions';
import { toursAction } from '../actions/tour-actions';

/** Opens what is told to others, and what tells and sets how hands move the view. */
export function HelpButtons({ target }: { readonly target: ActionTarget }): ReactElement {
  const { panel, hasTourBar } = useStore(target.ui);
  return (
    <div role="group" aria-label="Tours, share, hands and keys" className="help-buttons">
      {[toursAction, shareAction, handsAction, keysAction].map((action) => (
        <ActionTip key={action.id} {...action} actionId={action.id} placement="bottomRight">
          <button
            type="button"
            className="icon-button"
            aria-label={action.name}
            aria-expanded={action === toursAction ? hasTourBar : panel === action.id}
            onClick={() => action.run(target)}
          >
            <action.icon size={18} aria-hidden />
          </button>
        </ActionTip>
      ))}
    </div>
  );
}
