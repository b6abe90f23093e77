import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { TourDto } from '@gull-pane/protocol/tours';
import type { Parts } from '../actions/action';
import { FramesDialog } from './frames-dialog';
import { SpeedProfile } from './speed-profile';
import { StopSettings } from './stop-settings';
import { TourHead } from './tour-head';
import { TourStops } from './tour-stops';
import './tour.css';

/** Where a tour is made and played: its stops in order, their times, and how fast it is when. */
export function TourBar({
  target,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'seen' | 'cards' | 'player' | 'tours' | 'ui'>;
}): ReactElement {
  const { tours, player } = target;
  const known = useStore(tours, (state) => state.tours);
  const plan = useStore(player, (state) => state.plan);
  const [chosen, setChosen] = useState<string | null>(null);
  const [isMakingFrames, setMakingFrames] = useState(false);
  const stop = plan?.stops.find(({ stop: own }) => own.id === chosen) ?? plan?.stops[0] ?? null;
  return (
    <section className="tour-bar" aria-label="Tour">
      <TourHead target={target} tours={known ?? []} plan={plan} onFrames={() => setMakingFrames(true)} />
      {plan ? (
        <>
          <SpeedProfile target={target} plan={plan} />
          <TourStops target={target} plan={plan} chosen={stop?.stop.id ?? null} onChoose={setChosen} />
          {stop && <StopSettings key={stop.stop.id} target={target} plan={plan} own={stop} />}
        </>
      ) : (
        <NoTour target={target} tours={known ?? []} />
      )}
      {isMakingFrames && plan?.timeline && (
        <FramesDialog target={target} plan={plan} onClose={() => setMakingFrames(false)} />
      )}
    </section>
  );
}

function NoTour({
  target,
  tours,
}: {
  readonly target: Parts<'cards'>;
  readonly tours: readonly TourDto[];
}): ReactElement {
  const count = useStore(target.cards, (state) => state.cards?.length ?? 0);
  return (
    <p className="tour-none muted">
      {tours.length > 0
        ? 'Choose a tour above, or begin another one.'
        : count === 0
          ? 'A tour leads from view to view. Keep some views first: their cards become its stops.'
          : 'A tour leads from view to view. Begin one: it gets the views that are kept as its stops.'}
    </p>
  );
}
