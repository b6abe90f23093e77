import { LocateFixed, Undo2 } from 'lucide-react';
import { strayOffer } from '../store/sight-store';
import type { Action } from './action';

export const returnAction: Action<'sight'> = {
  id: 'return',
  name: 'Back to the drawing',
  sentence: 'When nothing is in sight, goes to the last view that showed something.',
  keys: ['r'],
  icon: Undo2,
  run: ({ sight }) => sight.getState().returnToContent(),
  isEnabled: ({ sight }) => sight.getState().isLost,
};

export const fitWithoutStraysAction: Action<'pane' | 'drawing' | 'sight'> = {
  id: 'fit-without-strays',
  name: 'Fit without strays',
  sentence: 'Fits everything except the few objects that lie far from the rest.',
  keys: ['Shift+a'],
  icon: LocateFixed,
  run: ({ sight }) => sight.getState().fitWithoutStrays(),
  isEnabled: ({ sight, drawing, pane }) =>
    strayOffer(sight.getState().strays, drawing.getState().drawing.extents, pane.getState().viewport) !== null,
};
