import {
  AppWindow,
  Columns2,
  Expand,
  Fullscreen,
  Grid2x2,
  LayoutGrid,
  Map as MapIcon,
  PanelsTopLeft,
  Radio,
  RectangleHorizontal,
  Rows2,
  SquareSplitHorizontal,
  Undo2,
  X,
} from 'lucide-react';
import { MOST_PANES, panesOf } from '@gull-pane/core/panes/tiling';
import { usePreferences } from '../store/preferences-store';
import type { Action, Parts } from './action';

const countOf = ({ panes }: Parts<'panes'>): number => panesOf(panes.getState().tiling).length;
const hasSeveral = (target: Parts<'panes'>): boolean => countOf(target) > 1;
const idOf = ({ pane }: Parts<'pane'>): string => pane.getState().id;

export const splitAction: Action<'pane' | 'panes'> = {
  id: 'split-side-by-side',
  name: 'Split side by side',
  sentence: 'Splits the pane; the new one on the right shows the same.',
  keys: ['F2'],
  icon: Columns2,
  run: (target) => void target.panes.getState().split('row', idOf(target)),
  isEnabled: (target) => countOf(target) < MOST_PANES,
};

export const splitBelowAction: Action<'pane' | 'panes'> = {
  id: 'split-below',
  name: 'Split one above the other',
  sentence: 'Splits the pane; the new one below shows the same.',
  keys: ['Shift+F2'],
  icon: Rows2,
  run: (target) => void target.panes.getState().split('column', idOf(target)),
  isEnabled: (target) => countOf(target) < MOST_PANES,
};

export const closePaneAction: Action<'pane' | 'panes'> = {
  id: 'close-pane',
  name: 'Close this pane',
  sentence: 'Closes the pane; it can be brought back.',
  keys: ['F4'],
  icon: X,
  run: (target) => target.panes.getState().close(idOf(target)),
  isEnabled: hasSeveral,
};

export const fillAreaAction: Action<'pane' | 'panes'> = {
  id: 'fill-area',
  name: 'Fill the area',
  sentence: 'Lets the pane fill the whole area; pressed again, brings all panes back as they were.',
  keys: ['F8'],
  icon: Expand,
  run: (target) => target.panes.getState().fill(idOf(target)),
  isEnabled: hasSeveral,
  isOn: ({ panes }) => panes.getState().filled !== null,
};

export const nextPaneAction: Action<'panes'> = {
  id: 'next-pane',
  name: 'Next pane',
  sentence: 'Makes the next pane the active one.',
  keys: ['F6'],
  icon: SquareSplitHorizontal,
  run: (target) => focusPane(target, 1),
  isEnabled: hasSeveral,
};

export const previousPaneAction: Action<'panes'> = {
  id: 'previous-pane',
  name: 'Previous pane',
  sentence: 'Makes the previous pane the active one.',
  keys: ['Shift+F6'],
  icon: SquareSplitHorizontal,
  run: (target) => focusPane(target, -1),
  isEnabled: hasSeveral,
};

function focusPane({ panes }: Parts<'panes'>, by: 1 | -1): void {
  panes.getState().step(by);
  const { active } = panes.getState();
  document.querySelector<HTMLElement>(`[data-pane="${active}"] .pane-surface`)?.focus({ preventScroll: true });
}

export const fitAllPanesAction: Action<'panes'> = {
  id: 'fit-all-panes',
  name: 'Fit all panes',
  sentence: 'Fits everything in every pane.',
  keys: ['6'],
  icon: Fullscreen,
  run: ({ panes }) => panes.getState().fitAll(),
};

export const echoAction: Action = {
  id: 'echo',
  name: 'Echo of the cursor',
  sentence: 'Other panes show where the cursor points, and a click on the ring goes there; or they stop showing it.',
  keys: ['7'],
  icon: Radio,
  run() {
    const own = usePreferences.getState();
    own.set({ echoes: !own.echoes });
  },
  isOn: () => usePreferences.getState().echoes,
};

export const overviewAction: Action<'pane'> = {
  id: 'overview',
  name: 'Overview',
  sentence: 'Shows or hides a small map of the whole drawing with a draggable frame of this pane.',
  keys: ['8'],
  icon: MapIcon,
  run({ pane }) {
    const { hasOverview, setOverview } = pane.getState();
    setOverview(!hasOverview);
  },
  isOn: ({ pane }) => pane.getState().hasOverview,
};

export const planAndModelAction: Action<'panes'> = {
  id: 'plan-and-model',
  name: 'Plan left, model right',
  sentence: 'Shows plan and model of one place side by side, tied to the same place and scale.',
  keys: ['Shift+F8'],
  icon: PanelsTopLeft,
  run: ({ panes }) => void panes.getState().planAndModel(),
};

export const planWithElevationsAction: Action<'panes'> = {
  id: 'plan-with-elevations',
  name: 'Plan with elevations',
  sentence: 'Lays out front, left side and plan of the model at one scale, so that every feature lines up.',
  keys: ['Shift+9'],
  icon: Grid2x2,
  for: 'solid',
  run: ({ panes }) => void panes.getState().planWithElevations(),
};

export const ownWindowAction: Action<'pane' | 'panes'> = {
  id: 'own-window',
  name: 'In a window of its own',
  sentence: 'Moves the pane to a window for a second screen; ties and echo keep working.',
  keys: ['9'],
  icon: AppWindow,
  run: (target) => target.panes.getState().openApart(idOf(target)),
  isEnabled: hasSeveral,
};

export const undoPanesAction: Action<'panes'> = {
  id: 'undo-panes',
  name: 'Bring the panes back',
  sentence: 'Undoes the last change of the arrangement, such as a closed pane.',
  keys: ['Shift+F4'],
  icon: Undo2,
  run: ({ panes }) => panes.getState().undo(),
  isEnabled: ({ panes }) => panes.getState().canUndo,
};

export const arrangementsAction: Action = {
  id: 'arrangements',
  name: 'Arrangements',
  sentence: 'Opens the arrangements of panes in the shelf.',
  keys: ['F9'],
  icon: LayoutGrid,
  run: () => usePreferences.getState().set({ isShelfOpen: true, shelfPanel: 'panes' }),
};

export const onePaneAction: Action<'panes'> = {
  id: 'one-pane',
  name: 'Only this pane',
  sentence: 'Closes all others; they can be brought back.',
  keys: ['Shift+F9'],
  icon: RectangleHorizontal,
  run: (target) => target.panes.getState().lay({ pane: '0' }),
  isEnabled: hasSeveral,
};

export const paneActions: readonly Action[] = [
  splitAction,
  splitBelowAction,
  fillAreaAction,
  closePaneAction,
  onePaneAction,
  undoPanesAction,
  nextPaneAction,
  previousPaneAction,
  fitAllPanesAction,
  planAndModelAction,
  planWithElevationsAction,
  arrangementsAction,
  ownWindowAction,
  overviewAction,
  echoAction,
];
