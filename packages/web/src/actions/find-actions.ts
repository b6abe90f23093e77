import { ChevronDown, ChevronUp, Search } from 'lucide-react';
import type { Action, Parts } from './action';

export const findAction: Action = {
  id: 'find',
  name: 'Find',
  sentence: 'Finds a text, a layer, a place, a scale, a bearing or an action.',
  keys: ['g', '/'],
  icon: Search,
  run() {
    const field = document.getElementById('find-field');
    if (!(field instanceof HTMLInputElement)) return;
    field.focus();
    field.select();
  },
};

const hasHits = ({ finds }: Parts<'finds'>): boolean => finds.getState().hits.length > 0;

export const nextHitAction: Action<'finds'> = {
  id: 'next-hit',
  name: 'Next hit',
  sentence: 'Goes to the next hit.',
  keys: ['h'],
  icon: ChevronDown,
  run: ({ finds }) => finds.getState().step(1),
  isEnabled: hasHits,
};

export const previousHitAction: Action<'finds'> = {
  id: 'previous-hit',
  name: 'Previous hit',
  sentence: 'Goes to the previous hit.',
  keys: ['Shift+h'],
  icon: ChevronUp,
  run: ({ finds }) => finds.getState().step(-1),
  isEnabled: hasHits,
};
