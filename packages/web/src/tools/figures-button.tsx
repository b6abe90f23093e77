import { Popover, Segmented } from 'antd';
import { Hash } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { lengthUnits, type LengthUnit } from '@gull-pane/core/drawing/units';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { usePreferences } from '../store/preferences-store';

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

function FiguresPanel({ hasUnit }: { readonly hasUnit: boolean }): ReactElement {
  const { shownIn, decimals, set } = usePreferences();
  return (
    <div className="foot-panel">
      {hasUnit && (
        <>
          Lengths are told in
          <Segmented<LengthUnit | 'own'>
            size="small"
            aria-label="Unit of figures"
            value={shownIn ?? 'own'}
            options={[
              { value: 'own' as const, label: 'the drawing’s unit' },
              ...lengthUnits.map((value) => ({ value, label: value })),
            ]}
            onChange={(value) => set({ shownIn: value === 'own' ? null : value })}
          />
        </>
      )}
      with
      <Segmented<number | 'all'>
        size="small"
        aria-label="Decimals of figures"
        value={decimals ?? 'all'}
        options={[
          { value: 'all' as const, label: 'all digits' },
          ...[0, 1, 2, 3, 4].map((value) => ({ value, label: String(value) })),
        ]}
        onChange={(value) => set({ decimals: value === 'all' ? null : value })}
      />
      decimals
    </div>
  );
}
