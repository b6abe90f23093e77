import { Popover } from 'antd';
import { Hash } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { usePreferences } from '../store/preferences-store';
import { FiguresPanel } from './later-parts';

/** The unit and the precision that measured figures are told in. */
export function FiguresButton({ target }: { readonly target: ActionTarget }): ReactElement | null {
  const [isOpen, setOpen] = useState(false);
  const { unit } = useStore(target.drawing, (state) => state.drawing);
  const { shownIn, decimals } = usePreferences();
  const shown = unit === 'none' ? 'units' : (shownIn ?? unit);
  const told = `${shown}, ${decimals === null ? 'all digits' : decimals === 1 ? '1 decimal' : `${decimals} decimals`}`;
  return (
    <Popover
      open={isOpen}
      onOpenChange={setOpen}
      trigger="click"
      placement="topRight"
      destroyOnHidden
      content={<FiguresPanel hasUnit={unit !== 'none'} />}
    >
      <span>
        <ActionTip name="Figures" sentence="The unit and the precision of what is measured." placement="top">
          <button
            type="button"
            className="foot-button figures"
            aria-label={`Figures in ${told}`}
            aria-expanded={isOpen}
          >
            <Hash size={14} aria-hidden /> {shown}
            {decimals !== null && ` .${'0'.repeat(decimals)}`}
          </button>
        </ActionTip>
      </span>
    </Popover>
  );
}
