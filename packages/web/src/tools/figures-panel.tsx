import { Segmented } from 'antd';
import type { ReactElement } from 'react';
import { lengthUnits, type LengthUnit } from '@gull-pane/core/drawing/units';
import { usePreferences } from '../store/preferences-store';

/** Chooses the unit and the decimals of measured figures. */
export function FiguresPanel({ hasUnit }: { readonly hasUnit: boolean }): ReactElement {
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
