import { Button, Input, Select } from 'antd';
import {
  Hand,
  Images,
  MoreVertical,
  Pause,
  Play,
  Plus,
  Presentation,
  Repeat,
  SkipBack,
  SkipForward,
  Undo2,
  X,
  type LucideIcon,
} from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { TourDto } from '@gull-pane/protocol/tours';
import type { Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { MenuButton } from '../controls/menu-button';
import { playTourAction, presentAction } from '../actions/tour-actions';
import type { TourPlan } from '../store/tour-plan';
import { SpeedTold } from './profile-chart';
import { clockTime } from './times';

interface HeadProps {
  readonly target: Parts<'cards' | 'player' | 'tours' | 'ui'>;
  readonly tours: readonly TourDto[];
  readonly plan: TourPlan | null;
  readonly onFrames: () => void;
}

/** Which tour it is, what plays it, and what is done with it. */
export function TourHead({ target, tours, plan, onFrames }: HeadProps): ReactElement {
  const { tours: store, cards, player, ui } = target;
  const [isNamed, setNamed] = useState(false);
  const undoes = useStore(store, (state) => state.undoes);
  const count = useStore(cards, (state) => state.cards?.length ?? 0);
  const { open } = player.getState();
  const id = plan?.tour.id ?? null;
  useEffect(() => {
    // whoever opens the bar means the tour that there is
    if (id === null && tours.length === 1) open(tours[0]!.id);
  }, [id, tours, open]);
  const begin = (): void => {
    const known = cards.getState().cards ?? [];
    open(store.getState().begin(`Tour ${tours.length + 1}`, known));
    setNamed(true);
  };
  return (
    <div className="tour-head">
      {isNamed && plan ? (
        <TourName
          name={plan.tour.name}
          onDone={(name) => {
            setNamed(false);
            if (name !== '' && name !== plan.tour.name) void store.getState().change(plan.tour.id, { name }, 'rename');
          }}
        />
      ) : (
        <Select
          size="small"
          className="tour-choice"
          aria-label="Tour"
          placeholder="No tour yet"
          disabled={tours.length === 0}
          value={id}
          options={tours.map((tour) => ({ value: tour.id, label: tour.name }))}
          onChange={(next: string) => open(next)}
        />
      )}
      <ActionTip
        name="New tour"
        sentence="Begins a tour; the views that are kept are its stops, in their order."
        placement="top"
      >
        <Button
          size="small"
          type={tours.length === 0 ? 'primary' : 'default'}
          icon={<Plus size={14} aria-hidden />}
          disabled={count === 0}
          onClick={begin}
        >
          New tour
        </Button>
      </ActionTip>
      {plan && <Transport target={target} plan={plan} />}
      <span className="tour-head-end">
        {undoes !== null && (
          <Button
            size="small"
            icon={<Undo2 size={14} aria-hidden />}
            onClick={() => void store.getState().undo()}
          >{`Undo ${undoes}`}</Button>
        )}
        {plan && (
          <>
            <ActionTip {...presentAction} actionId={presentAction.id} placement="top">
              <Button
                size="small"
                type="primary"
                icon={<Presentation size={14} aria-hidden />}
                disabled={!plan.timeline}
                onClick={() => presentAction.run(target)}
              >
                Present
              </Button>
            </ActionTip>
            <MenuButton
              className="icon-button"
              label={`More for ${plan.tour.name}`}
              placement="topRight"
              items={[
                { key: 'name', label: 'Rename', onClick: () => setNamed(true) },
                {
                  key: 'frames',
                  label: 'Write as numbered pictures …',
                  icon: <Images size={14} aria-hidden />,
                  disabled: !plan.timeline,
                  onClick: onFrames,
                },
                { type: 'divider' },
                {
                  key: 'delete',
                  label: 'Delete',
                  danger: true,
                  onClick: () => void store.getState().remove(plan.tour.id),
                },
              ]}
            >
              <MoreVertical size={16} aria-hidden />
            </MenuButton>
          </>
        )}
        <button
          type="button"
          className="icon-button"
          aria-label="Close the tour bar"
          onClick={() => ui.getState().set({ hasTourBar: false })}
        >
          <X size={16} aria-hidden />
        </button>
      </span>
    </div>
  );
}

function TourName({ name, onDone }: { readonly name: string; readonly onDone: (name: string) => void }): ReactElement {
  return (
    <Input
      size="small"
      className="tour-choice"
      autoFocus
      maxLength={120}
      aria-label="Name of the tour"
      defaultValue={name}
      onFocus={(event) => event.target.select()}
      onPressEnter={(event) => event.currentTarget.blur()}
      onBlur={(event) => onDone(event.target.value.trim())}
    />
  );
}

function Transport({
  target,
  plan,
}: {
  readonly target: Parts<'player' | 'tours'>;
  readonly plan: TourPlan;
}): ReactElement {
  const { player, tours } = target;
  const { isPlaying, isByHand, next, previous, toggle, setByHand } = useStore(player);
  const { tour, timeline } = plan;
  const isEmpty = !timeline;
  return (
    <div className="tour-transport" role="group" aria-label="Playing">
      <Control
        icon={SkipBack}
        name="Stop before"
        sentence="Goes back to the beginning of this stop, then to the one before."
        isOff={isEmpty}
        onPress={previous}
      />
      <Control
        icon={isPlaying ? Pause : Play}
        name={isPlaying ? 'Pause' : 'Play'}
        sentence={playTourAction.sentence}
        actionId={playTourAction.id}
        isOff={isEmpty}
        onPress={toggle}
      />
      <Control
        icon={SkipForward}
        name="Next stop"
        sentence="Travels to the next stop and waits there; once more on the way is there at once."
        isOff={isEmpty}
        onPress={next}
      />
      <Control
        icon={Repeat}
        name="Loop"
        sentence="After the last stop the tour travels to the first and goes on."
        isOn={tour.loops}
        isOff={isEmpty}
        onPress={() => void tours.getState().change(tour.id, { loops: !tour.loops }, 'looping')}
      />
      <Control
        icon={Hand}
        name="From stop to stop by hand"
        sentence="Play travels to the next stop only and waits there, however long."
        isOn={isByHand}
        isOff={isEmpty}
        onPress={() => setByHand(!isByHand)}
      />
      <TourClock target={target} durationMs={timeline?.durationMs ?? 0} />
      {timeline && timeline.durationMs > 0 && <SpeedTold timeline={timeline} />}
    </div>
  );
}

function TourClock({
  target,
  durationMs,
}: {
  readonly target: Parts<'player'>;
  readonly durationMs: number;
}): ReactElement {
  const timeMs = useStore(target.player, (state) => state.timeMs);
  return (
    <span className="tour-clock figures" role="timer" aria-label="Time of the tour">
      {clockTime(timeMs)} <span className="muted">of {clockTime(durationMs)}</span>
    </span>
  );
}

interface ControlProps {
  readonly icon: LucideIcon;
  readonly name: string;
  readonly sentence: string;
  readonly actionId?: string;
  readonly isOn?: boolean;
  readonly isOff: boolean;
  readonly onPress: () => void;
}

function Control({ icon: Icon, name, sentence, actionId, isOn, isOff, onPress }: ControlProps): ReactElement {
  return (
    <ActionTip name={name} sentence={sentence} placement="top" {...(actionId === undefined ? {} : { actionId })}>
      <button
        type="button"
        className="icon-button tour-control"
        aria-label={name}
        disabled={isOff}
        {...(isOn === undefined ? {} : { 'aria-pressed': isOn })}
        onClick={onPress}
      >
        <Icon size={16} aria-hidden />
      </button>
    </ActionTip>
  );
}
