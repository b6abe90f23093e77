import { Segmented } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { BoxTakes, PickStore } from '../store/pick-store';

/** What a box picks: what lies inside, or whatever it touches. */
export function BoxTakesChoice({ picks }: { readonly picks: PickStore }): ReactElement {
  const takes = useStore(picks, (state) => state.boxTakes);
  return (
    <Segmented<BoxTakes>
      className="box-takes"
      size="small"
      aria-label="A box takes"
      value={takes}
      options={[
        { value: 'inside', label: 'what is inside' },
        { value: 'touched', label: 'what it touches' },
      ]}
      onChange={(value) => picks.getState().setBoxTakes(value)}
    />
  );
}
