import { Button, Input, Select } from 'antd';
import { AlignHorizontalDistributeCenter, Trash2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { MOST_TIME_MS, evenSpeeds } from '@gull-pane/core/tour/retime';
import type { Easing } from '@gull-pane/core/tour/easing';
import type { LookMoment } from '@gull-pane/core/tour/timeline';
import { readDegrees, readNumber } from '@gull-pane/core/typed/typed-number';
import type { StopDto } from '@gull-pane/protocol/tours';
import type { Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { FigureField } from '../controls/figure-field';
import type { PlannedStop, TourPlan } from '../store/tour-plan';

const easingNames: Readonly<Record<Easing, string>> = {
  gentle: 'Gently',
  even: 'At even speed',
  'slow-arrival': 'Slow to arrive',
  'slow-departure': 'Slow to leave',
};
const momentNames: Readonly<Record<LookMoment, string>> = {
  leaving: 'when leaving',
  midway: 'midway',
  arriving: 'on arrival',
};
const RAD = Math.PI / 180;

interface SettingsProps {
  readonly target: Parts<'drawing' | 'tours'>;
  readonly plan: TourPlan;
  readonly own: PlannedStop;
}

/** What can be set of one stop, in one line. */
export function StopSettings({ target, plan, own }: SettingsProps): ReactElement {
  const { tours, drawing } = target;
  const { tour, stops, timeline } = plan;
  const { stop, card } = own;
  const number = stops.indexOf(own) + 1;
  const isSolid = drawing.getState().drawing.kind === 'solid';
  const set = (change: Partial<StopDto>, what: string): void => {
    const next = tour.stops.map((one) => (one.id === stop.id ? { ...one, ...change } : one));
    void tours.getState().change(tour.id, { stops: next }, what);
  };
  const even = (): void => {
    const found = evenSpeeds(
      stops.map((one) => one.stop),
      timeline?.lengths ?? [],
      tour.loops,
    );
    const byId = new Map(found.map((one) => [one.id, one]));
    void tours.getState().change(tour.id, { stops: tour.stops.map((one) => byId.get(one.id) ?? one) }, 'even speeds');
  };
  return (
    <div className="tour-settings" role="group" aria-label={`Settings of stop ${number}`}>
      <b className="figures">{number}</b>
      <Input
        size="small"
        className="tour-caption"
        aria-label="Caption"
        maxLength={400}
        placeholder={card.name}
        defaultValue={stop.caption}
        onPressEnter={({ target: field }) => (field as HTMLElement).blur()}
        onBlur={(event) => {
          if (event.target.value !== stop.caption) set({ caption: event.target.value }, 'caption');
        }}
      />
      <Seconds
        label="Travel"
        name="Seconds of the way there"
        ms={stop.travelMs}
        onSet={(travelMs) => set({ travelMs }, 'travel time')}
      />
      <Seconds label="Stay" name="Seconds of the stay" ms={stop.stayMs} onSet={(stayMs) => set({ stayMs }, 'stay')} />
      <Select<Easing>
        size="small"
        aria-label="How it gets there"
        popupMatchSelectWidth={false}
        value={stop.easing}
        options={Object.entries(easingNames).map(([value, label]) => ({ value: value as Easing, label }))}
        onChange={(easing) => set({ easing }, 'easing')}
      />
      <label>
        Looks change
        <Select<LookMoment>
          size="small"
          aria-label="When its looks are taken on"
          popupMatchSelectWidth={false}
          value={stop.looksChange}
          options={Object.entries(momentNames).map(([value, label]) => ({ value: value as LookMoment, label }))}
          onChange={(looksChange) => set({ looksChange }, 'change of looks')}
        />
      </label>
      {isSolid && (
        <label>
          Drift
          <FigureField
            className="tour-number"
            label="Degrees a second that it turns while one stays"
            suffix="°/s"
            min={-90}
            max={90}
            value={round(stop.driftRadPerS / RAD)}
            read={(text) => readDegrees(text.replace(/\/s$/, ''))}
            onSet={(degrees) => set({ driftRadPerS: degrees * RAD }, 'drift')}
          />
        </label>
      )}
      <span className="tour-head-end">
        <ActionTip
          name="Even speeds"
          sentence="Shares the time of all ways out so that none is quicker than another; the tour stays as long."
          placement="top"
        >
          <Button size="small" icon={<AlignHorizontalDistributeCenter size={14} aria-hidden />} onClick={even}>
            Even speeds
          </Button>
        </ActionTip>
        <Button
          size="small"
          icon={<Trash2 size={14} aria-hidden />}
          aria-label="Remove this stop"
          title="Remove this stop"
          onClick={() =>
            void tours
              .getState()
              .change(tour.id, { stops: tour.stops.filter(({ id }) => id !== stop.id) }, 'removing a stop')
          }
        />
      </span>
    </div>
  );
}

const round = (value: number): number => Math.round(value * 100) / 100;

function Seconds({
  label,
  name,
  ms,
  onSet,
}: {
  readonly label: string;
  readonly name: string;
  readonly ms: number;
  readonly onSet: (ms: number) => void;
}): ReactElement {
  return (
    <label>
      {label}
      <FigureField
        className="tour-number"
        label={name}
        suffix="s"
        min={0}
        max={MOST_TIME_MS / 1000}
        step={0.5}
        value={ms / 1000}
        read={(text) => readNumber(text.replace(/\s*s$/, ''))}
        onSet={(seconds) => onSet(Math.round(seconds * 1000))}
      />
    </label>
  );
}
