import { Button } from 'antd';
import { X } from 'lucide-react';
import { Suspense, lazy, useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { drillsFor } from '@gull-pane/core/drills/drills';
import type { Drill } from '@gull-pane/core/drills/drill';
import { shownDecimals } from '../basics/decimals';
import { focusActivePane } from '../input/focus-pane';
import type { Session } from '../session/session';
import { beginDrill, watchDrill } from '../session/warm-up';
import { bestOf, useWarmUp } from '../store/warm-up-store';
import { ScreenTour } from './screen-tour';
import './warm-up.css';

const DrillCurve = lazy(() => import('./drill-curve'));

const secondsText = (ms: number): string => shownDecimals(`${(ms / 1000).toFixed(1)} s`);
const actsText = (acts: number): string => (acts === 1 ? '1 act' : `${acts} acts`);

/** Two minutes of drills for the hands in use, beside the panes; left at any moment. */
export function WarmUp({ session }: { readonly session: Session }): ReactElement | null {
  const active = useStore(session.panes, (state) => state.active);
  const { ui, drawing } = session.targetOf(active);
  const isOpen = useStore(ui, (state) => state.panel === 'warm-up');
  const { kind } = useStore(drawing, (state) => state.drawing);
  const { running, last, leave } = useWarmUp();
  const [isTouring, setTouring] = useState(false);
  useEffect(() => (isOpen ? watchDrill(session) : undefined), [session, isOpen]);
  if (!isOpen) return null;
  const close = (): void => {
    leave();
    setTouring(false);
    ui.getState().set({ panel: null });
  };
  const own = drillsFor(kind);
  const begin = (drill: Drill): void => {
    focusActivePane();
    void beginDrill(session, drill);
  };
  const after = (drill: Drill): Drill => own[(own.indexOf(drill) + 1) % own.length]!;
  return (
    <section className="warm-up" aria-label="Warm-up">
      <header>
        <strong>{isTouring ? 'Round the screen' : (running?.drill.name ?? last?.drill.name ?? 'Warm-up')}</strong>
        <button type="button" className="icon-button" aria-label="Leave the warm-up" onClick={close}>
          <X size={15} aria-hidden />
        </button>
      </header>
      {isTouring && <ScreenTour target={session.targetOf(active)} onEnd={() => setTouring(false)} />}
      {running && (
        <>
          <p role="status" aria-label="Goal">
            {running.begun.goal}
            {running.begun.steps > 1 && ` ${running.reached} of ${running.begun.steps} done.`}
          </p>
          <div className="warm-up-acts">
            <Button size="small" onClick={() => begin(running.drill)}>
              Begin again
            </Button>
            <Button size="small" onClick={() => begin(after(running.drill))}>
              Skip
            </Button>
          </div>
        </>
      )}
      {last && <Result begin={begin} next={after(last.drill)} />}
      {!running && !last && !isTouring && <Choice drills={own} begin={begin} onTour={() => setTouring(true)} />}
    </section>
  );
}

/** What there is, with one's own best. */
function Choice({
  drills,
  begin,
  onTour,
}: {
  readonly drills: readonly Drill[];
  readonly begin: (drill: Drill) => void;
  readonly onTour: () => void;
}): ReactElement {
  const records = useWarmUp((state) => state.records);
  return (
    <>
      <p>Short drills for your hands, in this drawing. Each tells its goal; how you get there is up to you.</p>
      <ol aria-label="Drills">
        {drills.map((drill) => {
          const best = bestOf(records, drill.id);
          return (
            <li key={drill.id}>
              <button type="button" className="text-button" onClick={() => begin(drill)}>
                {drill.name}
              </button>
              {best && <span className="figures muted">{secondsText(best.ms)}</span>}
            </li>
          );
        })}
      </ol>
      <div className="warm-up-acts">
        <Button size="small" type="primary" onClick={() => begin(drills[0]!)}>
          Begin
        </Button>
        <Button size="small" onClick={onTour}>
          Round the screen
        </Button>
      </div>
    </>
  );
}

/** How it went: against one's own best and against the fewest acts, and the quicker way if there is one. */
function Result({
  begin,
  next,
}: {
  readonly begin: (drill: Drill) => void;
  readonly next: Drill;
}): ReactElement | null {
  const { last, records } = useWarmUp();
  if (!last) return null;
  const { drill, record, bestBefore } = last;
  const own = records.filter((one) => one.drill === drill.id);
  const isBest = bestBefore === null || record.ms < bestBefore.ms;
  return (
    <>
      <p role="status" aria-label="Result">
        <strong className="figures">{secondsText(record.ms)}</strong>, {actsText(record.acts)}.{' '}
        {bestBefore === null
          ? 'Your first time.'
          : isBest
            ? 'Your best so far.'
            : `Your best: ${secondsText(bestBefore.ms)}.`}{' '}
        {record.acts <= drill.fewest
          ? 'It can’t be done with fewer.'
          : `The fewest possible: ${actsText(drill.fewest)}. ${drill.tip}`}
      </p>
      {own.length > 1 && (
        <Suspense fallback={null}>
          <DrillCurve records={own} />
        </Suspense>
      )}
      <div className="warm-up-acts">
        <Button size="small" type="primary" onClick={() => begin(next)}>
          Next: {next.name}
        </Button>
        <Button size="small" onClick={() => begin(drill)}>
          Once more
        </Button>
      </div>
    </>
  );
}
