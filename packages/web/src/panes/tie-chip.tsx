import { Button, Checkbox, Segmented } from 'antd';
import { Link2, Unlink2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { TieHolds } from '@gull-pane/core/panes/tie';
import type { Parts } from '../actions/action';
import { PopoverButton } from '../controls/popover-button';
import { NamesPane } from './pane-name-text';
import { paneName } from './pane-names';
import './ties.css';

/** What a tie holds, in words. */
function holdsInWords({ place, scale, direction }: TieHolds): string {
  const held = [
    ...(place ? ['place'] : []),
    ...(scale ? ['scale'] : []),
    ...(direction === 'same' ? ['direction'] : direction === 'opposite' ? ['opposite side'] : []),
  ];
  return held.join(', ');
}

interface TieChipProps {
  readonly target: Parts<'pane' | 'panes'>;
  readonly other: string;
  readonly holds: TieHolds;
  readonly colour: number;
}

/** One tie: what it holds, how that is changed, how it is broken. */
export function TieChip({ target: { panes, pane }, other, holds, colour }: TieChipProps): ReactElement {
  const name = useStore(panes, (state) => paneName(state, other));
  const { id } = pane.getState();
  const { tie, untie } = panes.getState();
  const { place, scale, direction } = holds;
  const change = (change: Partial<TieHolds>): void => tie(id, other, { place, scale, direction, ...change });
  return (
    <PopoverButton
      className="tie-chip"
      label={`Tied to ${name}: ${holdsInWords(holds)}`}
      placement="topRight"
      colour={colour}
      tip={{ name: `Tied to ${name}`, sentence: `Both keep the same ${holdsInWords(holds)}.` }}
      content={() => (
        <div className="tie-panel" role="group" aria-label={`Tie to ${name}`}>
          <strong>Tied to {name}</strong>
          <Checkbox
            checked={place}
            disabled={!panes.getState().sharesPlace(id, other)}
            onChange={({ target }) => change({ place: target.checked })}
          >
            Same place
          </Checkbox>
          <Checkbox checked={scale} onChange={({ target }) => change({ scale: target.checked })}>
            Same scale
          </Checkbox>
          <Segmented
            size="small"
            aria-label="Direction"
            value={direction}
            onChange={(value: TieHolds['direction']) => change({ direction: value })}
            options={[
              { value: 'free', label: 'Own direction' },
              { value: 'same', label: 'Same' },
              { value: 'opposite', label: 'Opposite' },
            ]}
          />
          <Button size="small" icon={<Unlink2 size={14} aria-hidden />} onClick={() => untie(id, other)}>
            Break the tie
          </Button>
        </div>
      )}
    >
      <NamesPane panes={panes} pane={other}>
        <Link2 size={14} aria-hidden />
        <span>{holdsInWords(holds)}</span>
      </NamesPane>
    </PopoverButton>
  );
}
