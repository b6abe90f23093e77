import { Link, Printer, Share2 } from 'lucide-react';
import type { Action } from './action';

export const copyLinkAction: Action<'panes'> = {
  id: 'copy-link',
  name: 'Copy a link',
  sentence: 'Copies a short link to exactly what all panes show now.',
  keys: ['F7'],
  icon: Link,
  run: ({ panes }) => void panes.getState().copyLink(),
};

export const shareAction: Action<'ui'> = {
  id: 'share',
  name: 'Share',
  sentence: 'Links to what the panes show: a short one, one that needs no server, and a code to scan.',
  keys: ['Shift+F7'],
  icon: Share2,
  run: ({ ui }) => ui.getState().set({ panel: 'share' }),
};

export const layOutSheetsAction: Action<'ui'> = {
  id: 'lay-out-sheets',
  name: 'Lay out sheets',
  sentence: 'Views at exact scales on sheets of paper, to be printed or saved as PDF.',
  keys: ['Ctrl+p'],
  icon: Printer,
  run: ({ ui }) => ui.getState().set({ panel: 'sheets' }),
};

export const shareActions: readonly Action[] = [copyLinkAction, shareAction, layOutSheetsAction];
