import { EyeClosed, ScanEye } from 'lucide-react';
import { usePreferences } from '../store/preferences-store';
import type { Action } from './action';

export const recordSeenAction: Action<'asked' | 'coverage'> = {
  id: 'record-seen',
  name: 'Record what is seen',
  sentence: 'Takes down what has been on the screen at a readable size, and tells what hasn’t.',
  keys: ['Shift+7'],
  icon: ScanEye,
  run({ coverage, asked }) {
    const { isOn, told, set, begin } = coverage.getState();
    usePreferences.getState().set({ isShelfOpen: true, shelfPanel: 'seen' });
    if (told) set({ isOn: !isOn });
    else void begin(asked);
  },
  isOn: ({ coverage }) => coverage.getState().isOn,
};

export const nextUnseenAction: Action<'pane' | 'asked' | 'coverage'> = {
  id: 'next-unseen',
  name: 'Next unseen',
  sentence: 'Goes to the nearest place that hasn’t been seen, at a scale at which it can be read.',
  keys: ['Shift+8'],
  icon: EyeClosed,
  run: ({ coverage, pane, asked }) => void coverage.getState().goToNext(pane, asked),
  isEnabled: ({ coverage }) => coverage.getState().told !== null,
};

export const seenActions: readonly Action[] = [recordSeenAction, nextUnseenAction];
