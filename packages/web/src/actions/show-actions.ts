import { Eye, EyeOff, ScanEye } from 'lucide-react';
import { hideObjects, showAllObjects, showOnlyObjects } from '@gull-pane/core/view/shown';
import { tellFailed } from '../store/tell-failed';
import type { Action, Parts } from './action';

const hasPicks = ({ picked }: Parts<'picked'>): boolean => picked.getState().picked.size > 0;

const objectsOf = ({ drawing }: Parts<'drawing'>): number => drawing.getState().drawing.counts.objects;

/** Hands on the numbers of the objects that are picked. */
async function withPicked(
  { picked, asked }: Parts<'asked' | 'picked'>,
  act: (objects: readonly number[]) => void,
): Promise<void> {
  const entries = Uint32Array.from(picked.getState().picked);
  await asked
    .ask('facts', { entries, withLength: false })
    .then((facts) => act(facts.map(({ object }) => object)))
    .catch(tellFailed('Nothing was shown or hidden.'));
}

export const onlyTheseAction: Action<'pane' | 'drawing' | 'asked' | 'picked'> = {
  id: 'only-these',
  name: 'Only these',
  sentence: 'Hides every object except the selection.',
  keys: ['k'],
  icon: ScanEye,
  run: (target) =>
    void withPicked(target, (objects) =>
      target.pane.getState().update((shown) => showOnlyObjects(shown, objects, objectsOf(target)), 'objects'),
    ),
  isEnabled: hasPicks,
};

export const hideTheseAction: Action<'pane' | 'drawing' | 'asked' | 'picked' | 'picks'> = {
  id: 'hide-these',
  name: 'Hide these',
  sentence: 'Hides the selection; the bottom line tells how many objects are hidden.',
  keys: ['e'],
  icon: EyeOff,
  run: (target) =>
    void withPicked(target, (objects) => {
      target.picks.getState().clear();
      target.pane.getState().update((shown) => hideObjects(shown, objects, objectsOf(target)), 'objects');
    }),
  isEnabled: hasPicks,
};

export const showAllAction: Action<'pane'> = {
  id: 'show-all',
  name: 'Show all',
  sentence: 'Shows every hidden object again; layers stay as they are.',
  keys: ['Shift+e'],
  icon: Eye,
  run: ({ pane }) => pane.getState().update(showAllObjects, 'objects'),
  isEnabled: ({ pane }) => pane.getState().shown.hiddenObjects !== null,
};
