import { Eye, EyeOff, ScanEye } from 'lucide-react';
import type { Action, ActionTarget } from './action';

const hasPicks = ({ picks }: ActionTarget): boolean => picks.getState().picked.size > 0;

/** Hands on the numbers of the objects that are picked. */
async function withPicked({ picks, asked }: ActionTarget, act: (objects: readonly number[]) => void): Promise<void> {
  const entries = Uint32Array.from(picks.getState().picked);
  const facts = await asked.ask('facts', { entries, withLength: false });
  act(facts.map(({ object }) => object));
}

export const onlyTheseAction: Action = {
  id: 'only-these',
  name: 'Only these',
  sentence: 'Hides every object but those that are picked.',
  keys: ['k'],
  icon: ScanEye,
  run: (target) => void withPicked(target, target.drawing.getState().showOnlyObjects),
  isEnabled: hasPicks,
};

export const hideTheseAction: Action = {
  id: 'hide-these',
  name: 'Hide these',
  sentence: 'Hides the objects that are picked; the line at the bottom tells how many are hidden.',
  keys: ['e'],
  icon: EyeOff,
  run: (target) =>
    void withPicked(target, (objects) => {
      target.picks.getState().clear();
      target.drawing.getState().hideObjects(objects);
    }),
  isEnabled: hasPicks,
};

export const showAllAction: Action = {
  id: 'show-all',
  name: 'Show all',
  sentence: 'Brings back every object that is hidden; layers stay as they are.',
  keys: ['Shift+e'],
  icon: Eye,
  run: ({ drawing }) => drawing.getState().showAllObjects(),
  isEnabled: ({ drawing }) => drawing.getState().hiddenObjects !== null,
};
