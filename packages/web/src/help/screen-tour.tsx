import { Button } from 'antd';
import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { scaleDenominator } from '@gull-pane/core/camera/scale';
import type { Parts } from '../actions/action';
import { useUnitsOfScreenPx } from '../words/figure-style';

type Toured = Parts<'pane' | 'drawing' | 'cards'>;

/** What a step compares: how things are, and how they were when the step began. */
interface Things {
  readonly unitsPerPx: number;
  readonly scale: number;
  readonly place: number;
  readonly hiddenLayers: number;
  readonly cards: number;
}

interface Step {
  /** The real control that is used in it, as a selector. */
  readonly control: string;
  readonly text: string;
  readonly isDone: (now: Things, before: Things) => boolean;
}

/** Each is done by the person, with the very control that will be used later. */
const steps: readonly Step[] = [
  {
    control: '.pane[data-active="true"]',
    text: 'This is the drawing. Zoom in on any part of it: turn the wheel, or pinch.',
    isDone: (now, before) => now.unitsPerPx < 0.9 * before.unitsPerPx,
  },
  {
    control: '.tool-rail [aria-label="Back"], .tool-rail [aria-label="Trail"]',
    text: 'Back, on the rail, returns to the view before, to the last digit. Press it.',
    isDone: (now, before) => now.place < before.place,
  },
  {
    control: '.find',
    text: 'Up here you find texts, layers, places and scales. Type 1:500 and press Enter.',
    isDone: ({ scale }) => Math.abs(scale / 500 - 1) < 1e-9,
  },
  {
    control: '.shelf',
    text: 'The shelf holds layers, views, marks and more. Switch any layer off, or on again.',
    isDone: (now, before) => now.hiddenLayers !== before.hiddenLayers,
  },
  {
    control: '.tool-rail [aria-label="Keep this view"], .tool-rail [aria-label="Trail"]',
    text: 'Keep this view, on the rail, makes a card of what you see. Press it.',
    isDone: (now, before) => now.cards > before.cards,
  },
  {
    control: '.trail-views',
    text: 'All views that you have been at stand along the trail. Press the first one.',
    isDone: (now, before) => now.place < before.place,
  },
];

/** Shows a newcomer round the screen, step by step; any can be skipped. */
export function ScreenTour({ target, onEnd }: { readonly target: Toured; readonly onEnd: () => void }): ReactElement {
  const now = useThings(target);
  const [{ step, before }, setStep] = useState({ step: 0, before: now });
  const own = steps[step];
  const isDone = own?.isDone(now, before) ?? false;
  if (isDone) setStep({ step: step + 1, before: now });
  useEffect(() => {
    const control = own && document.querySelector<HTMLElement>(own.control);
    if (!control) return undefined;
    control.dataset.toured = 'true';
    return () => {
      delete control.dataset.toured;
    };
  }, [own]);
  if (!own)
    return (
      <>
        <p role="status" aria-label="Step">
          That was the screen. The line at the bottom says what to do next, in every tool; ? lists all keys.
        </p>
        <Button size="small" type="primary" onClick={onEnd}>
          On to the drills
        </Button>
      </>
    );
  return (
    <>
      <p role="status" aria-label="Step">
        <span className="figures muted">
          {step + 1} of {steps.length}
        </span>{' '}
        {own.text}
      </p>
      <div className="warm-up-acts">
        <Button size="small" onClick={() => setStep({ step: step + 1, before: now })}>
          Skip
        </Button>
        <Button size="small" onClick={onEnd}>
          End the tour
        </Button>
      </div>
    </>
  );
}

function useThings(target: Toured): Things {
  const mmPerPx = useUnitsOfScreenPx(target);
  const { camera, trail, shown, isFlying } = useStore(target.pane);
  const cards = useStore(target.cards, (state) => state.cards?.length ?? 0);
  const now = {
    unitsPerPx: camera.unitsPerPx,
    scale: scaleDenominator(camera, mmPerPx),
    place: trail.current,
    hiddenLayers: shown.hiddenLayers.size,
    cards,
  };
  const [rested, setRested] = useState(now);
  // on the way somewhere nothing is reached yet
  const isOther = (Object.keys(now) as (keyof Things)[]).some((part) => now[part] !== rested[part]);
  if (!isFlying && isOther) setRested(now);
  return rested;
}
