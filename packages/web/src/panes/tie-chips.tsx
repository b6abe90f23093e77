import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { isBetween, tiesOf } from '../store/panes-store';
import { TieChip } from './later-parts';

/** So many colours there are for ties; more than that many are told apart by their words. */
const COLOURS = 5;

/** The ties of a pane as links of one colour at both ends. */
export function TieChips({ target }: { readonly target: Parts<'pane' | 'panes'> }): ReactElement {
  const { panes, pane } = target;
  const [id] = useState(() => pane.getState().id);
  const ties = useStore(panes, (state) => state.ties);
  return (
    <>
      {tiesOf(ties, id).map((tie) => (
        <TieChip
          key={tie.with}
          target={target}
          other={tie.with}
          holds={tie}
          colour={ties.findIndex((one) => isBetween(one, id, tie.with)) % COLOURS}
        />
      ))}
    </>
  );
}
