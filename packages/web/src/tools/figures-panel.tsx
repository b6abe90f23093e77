import { Segmented } from 'antd';
import type { ReactElement } from 'react';
import type { ShownUnit } from '@gull-pane/core/drawing/units';
import type { AngleUnit } from '@gull-pane/core/measure/figures';
import { usePreferences } from '../store/preferences-store';
import type { DecimalSign } from '../basics/decimals';

const units: readonly (readonly [ShownUnit, string])[] = [
  ['mm', 'mm'],
  ['cm', 'cm'],
  ['m', 'm'],
  ['km', 'km'],
  ['in', 'in'],
  ['ft', 'ft'],
  ['ft-in', 'ft and in'],
  ['ft US', 'US survey ft'],
];
const angleNames: readonly (readonly [AngleUnit, string])[] = [
  ['deg', '30.5°'],
  ['dms', '30° 30′ 00″'],
  ['gon', 'gon'],
];

const signNames: readonly (readonly [DecimalSign, string])[] = [
  ['language', 'by language'],
  ['point', '0.5'],
  ['comma', '0,5'],
];

/** Chooses units and decimals of measured figures. */
export function FiguresPanel({ hasUnit }: { readonly hasUnit: boolean }): ReactElement {
  const { shownIn, decimals, decimalSign, angles, set } = usePreferences();
  return (
    <div className="foot-panel">
      {hasUnit && (
        <label className="figures-row">
          Lengths in
          <select
            className="plain-select"
            aria-label="Unit of lengths"
            value={shownIn ?? 'own'}
            onChange={({ target: { value } }) => set({ shownIn: value === 'own' ? null : (value as ShownUnit) })}
          >
            <option value="own">the drawing’s unit</option>
            {units.map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      <Row name="Angles in">
        <Segmented<AngleUnit>
          size="small"
          aria-label="Unit of angles"
          value={angles}
          options={angleNames.map(([value, label]) => ({ value, label }))}
          onChange={(value) => set({ angles: value })}
        />
      </Row>
      <Row name={shownIn === 'ft-in' ? 'Halvings of an inch' : 'Decimals'}>
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
      </Row>
      <Row name="Decimal sign">
        <Segmented<DecimalSign>
          size="small"
          aria-label="Decimal sign"
          value={decimalSign}
          options={signNames.map(([value, label]) => ({ value, label }))}
          onChange={(value) => set({ decimalSign: value })}
        />
      </Row>
    </div>
  );
}

function Row({ name, children }: { readonly name: string; readonly children: ReactElement }): ReactElement {
  return (
    <div className="figures-row">
      <span aria-hidden>{name}</span>
      {children}
    </div>
  );
}
