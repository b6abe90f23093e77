import { Button, Checkbox, Radio } from 'antd';
import { Play } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { captionOf, type TourPlan } from '../store/tour-plan';
import { presenterKeys, presenterKeyOf } from './presenter-keys';
import { spokenTime } from './times';
import './presentation.css';

/** A tour with the whole screen: its title page, then the drawing and a caption, and nothing else. */
export function Presentation({
  target,
}: {
  readonly target: Parts<'drawing' | 'player' | 'tours' | 'ui'>;
}): ReactElement | null {
  const { ui, player } = target;
  const presenting = useStore(ui, (state) => state.presenting);
  const plan = useStore(player, (state) => state.plan);
  if (presenting === null || !plan?.timeline) return null;
  return presenting === 'title' ? <TitlePage target={target} plan={plan} /> : <Running target={target} plan={plan} />;
}

interface PresentationProps {
  readonly target: Parts<'drawing' | 'player' | 'tours' | 'ui'>;
  readonly plan: TourPlan;
}

/** What is seen before it begins: what is presented, how, and the keys. */
function TitlePage({ target, plan }: PresentationProps): ReactElement {
  const { ui, player, drawing, tours } = target;
  const isByHand = useStore(player, (state) => state.isByHand);
  const { name } = drawing.getState().drawing;
  const { tour, stops, timeline } = plan;
  const start = (): void => {
    document.documentElement.requestFullscreen().catch(() => undefined); // the page fills its window then
    player.getState().toStop(0);
    ui.getState().set({ presenting: 'tour' });
    if (!isByHand) player.getState().play();
  };
  const leave = (): void => ui.getState().set({ presenting: null });
  return (
    <section
      className="title-page"
      role="dialog"
      aria-modal
      aria-label={`Present ${tour.name}`}
      onKeyDown={(event) => {
        if (event.key === 'Escape') leave();
        // a clicker has no other key to begin with
        if (event.key !== 'PageDown') return;
        event.stopPropagation(); // it begins, and doesn't go on as well
        start();
      }}
    >
      <div className="title-sheet">
        {stops[0]!.card.picture === '' ? null : <img src={stops[0]!.card.picture} alt="" />}
        <div className="title-told">
          <p className="muted">{name}</p>
          <h1>{tour.name}</h1>
          <p>
            {stops.length === 1 ? '1 stop' : `${stops.length} stops`}, {spokenTime(timeline!.durationMs)}
          </p>
          <ol className="title-stops" aria-label="Stops">
            {stops.map((own) => (
              <li key={own.stop.id}>{captionOf(own)}</li>
            ))}
          </ol>
          <Radio.Group
            aria-label="How it goes on"
            value={isByHand}
            options={[
              { value: false, label: 'It goes on by itself' },
              { value: true, label: 'I go from stop to stop' },
            ]}
            onChange={(event) => player.getState().setByHand(event.target.value as boolean)}
          />
          <Checkbox
            checked={tour.loops}
            onChange={(event) => void tours.getState().change(tour.id, { loops: event.target.checked }, 'looping')}
          >
            Loop
          </Checkbox>
          <div className="title-acts">
            <Button type="primary" size="large" autoFocus icon={<Play size={18} aria-hidden />} onClick={start}>
              Start
            </Button>
            <Button size="large" onClick={leave}>
              Not now
            </Button>
          </div>
        </div>
        <dl className="title-keys" aria-label="Keys while presenting">
          {presenterKeys.map(({ caps, does }) => (
            <div key={does}>
              <dt>
                {caps.map((cap) => (
                  <kbd key={cap}>{cap}</kbd>
                ))}
              </dt>
              <dd>{does}</dd>
            </div>
          ))}
        </dl>
      </div>
    </section>
  );
}

/** The caption over the drawing, and the keys of whoever presents. */
function Running({ target, plan }: PresentationProps): ReactElement {
  const { ui, player } = target;
  const { nearest, isPlaying, timeMs } = useStore(player);
  const [isDark, setDark] = useState(false);
  const [hasCaption, setCaption] = useState(true);
  const { stops, timeline } = plan;
  useEffect(() => {
    const leave = (): void => {
      player.getState().pause();
      ui.getState().set({ presenting: null });
      if (document.fullscreenElement) void document.exitFullscreen();
    };
    const press = (event: KeyboardEvent): void => {
      const act = presenterKeyOf(event);
      if (!act) return;
      event.preventDefault();
      event.stopPropagation();
      const { next, previous, toStop, toggle, isByHand, plan: now } = player.getState();
      switch (act) {
        case 'next':
          return next();
        case 'previous':
          return previous();
        case 'go':
          return isByHand ? next() : toggle();
        case 'first':
          return toStop(0);
        case 'last':
          return toStop((now?.stops.length ?? 1) - 1);
        case 'dark':
          return setDark((was) => !was);
        case 'caption':
          return setCaption((was) => !was);
        case 'leave':
          return leave();
      }
    };
    const hasFull = document.fullscreenElement !== null;
    let wasFull = hasFull;
    const changed = (): void => {
      if (document.fullscreenElement) wasFull = true;
      else if (wasFull) leave(); // the browser's own key for it
    };
    window.addEventListener('keydown', press, true);
    document.addEventListener('fullscreenchange', changed);
    return () => {
      window.removeEventListener('keydown', press, true);
      document.removeEventListener('fullscreenchange', changed);
    };
  }, [player, ui]);
  const stop = stops[nearest];
  const isOver = !isPlaying && !timeline!.loops && timeMs >= timeline!.durationMs;
  return (
    <>
      {isDark && <div className="presented-dark" role="img" aria-label="The screen is dark" />}
      {hasCaption && stop && !isDark && (
        <p className="presented-caption" role="status" aria-label="Caption">
          {captionOf(stop)}
          {isOver && <small>That was the last stop. Escape leaves.</small>}
        </p>
      )}
    </>
  );
}
