import { Hash } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { PopoverButton } from '../controls/popover-button';
import { usePreferences } from '../store/preferences-store';
import { FiguresPanel } from './later-parts';

/** The unit and the precision that measured figures are told in. */
export function FiguresButton({ target }: { readonly target: Parts<'drawing'> }): ReactElement | null {
  const { unit } = useStore(target.drawing, (state) => state.drawing);
  const { shownIn, decimals } = usePreferences();
  const shown = unit === 'none' ? 'units' : (shownIn ?? unit);
  const told = `${shown}, ${decimals === null ? 'all digits' : decimals === 1 ? '1 decimal' : `${decimals} decimals`}`;
  return (
    <PopoverButton
      className="foot-button status-tool figures"
      label={`Figures in ${told}`}
      placement="topRight"
      tip={{ name: 'Figures', sentence: 'The unit and the precision of what is measured.' }}
      content={() => <FiguresPanel hasUnit={unit !== 'none'} />}
    >
      <Hash size={14} aria-hidden /> {shown}
      {decimals !== null && ` .${'0'.repeat(decimals)}`}
    </PopoverButton>
  );
}
