import { Columns2, Diff, StepBack, StepForward } from 'lucide-react';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import type { ChangeBoxDto } from '@gull-pane/protocol/comparison';
import { isFormer, type DrawingDto } from '@gull-pane/protocol/drawings';
import { clusterAfter } from '../store/comparison-store';
import { usePreferences } from '../store/preferences-store';
import type { Action, ActionTarget, Parts } from './action';

/** Room round a change, as a share of its size, so that one sees where it is. */
const ROOM = 0.6;
/** At least so much room, as a share of the drawing's size: one sees where a mere point lies. */
const LEAST_SHARE = 0.03;

/** Corners of a box with room round it, x, y, z triples. */
function cornersOf({ min, max }: ChangeBoxDto, least: number): number[] {
  const sides = max.map((value, axis) => value - min[axis]!);
  const room = Math.max(ROOM * Math.max(...sides), least) / 2;
  const low = min.map((value) => value - room);
  const high = max.map((value) => value + room);
  const corners: number[] = [];
  for (let bits = 0; bits < 1 << min.length; bits++)
    for (let axis = 0; axis < 3; axis++)
      corners.push(axis >= min.length ? 0 : (bits >> axis) & 1 ? high[axis]! : low[axis]!);
  return corners;
}

/** What is framed of a cluster: its box with room round it. */
export function cornersOfCluster({ extents }: Pick<DrawingDto, 'extents'>, box: ChangeBoxDto): number[] {
  const size = extents ? Math.hypot(extents.max.x - extents.min.x, extents.max.y - extents.min.y) : 0;
  return cornersOf(box, LEAST_SHARE * size);
}

/** Frames a cluster of changes. */
export function goToCluster(target: Pick<ActionTarget, 'comparison' | 'pane' | 'drawing'>, cluster: number): void {
  const { comparison: store, pane, drawing } = target;
  const { comparison, set } = store.getState();
  const found = comparison?.clusters[cluster];
  if (!found) return;
  const corners = cornersOfCluster(drawing.getState().drawing, found.box);
  set({ current: cluster, isShown: true });
  pane.getState().travel((from, viewport, limits) => fitSupport(from, viewport, corners, limits));
}

const step = (by: 1 | -1) => (target: Parts<'pane' | 'drawing' | 'comparison'>) => {
  const cluster = clusterAfter(target.comparison.getState(), by);
  if (cluster >= 0) goToCluster(target, cluster);
};
const isCompared = ({ comparison }: Parts<'comparison'>): boolean => comparison.getState().comparison !== null;
const hasFormer = ({ drawing }: Parts<'drawing'>): boolean => {
  const { id, revision } = drawing.getState().drawing;
  return revision > 1 || isFormer(id);
};

export const changesAction: Action<'drawing' | 'comparison'> = {
  id: 'changes',
  name: 'Changes',
  sentence: 'Lays the last two revisions over one another, and lists what differs.',
  keys: ['*', 'Shift+*'],
  icon: Diff,
  run({ comparison }) {
    const { comparison: known, isShown, load, set } = comparison.getState();
    usePreferences.getState().set({ isShelfOpen: true, shelfPanel: 'changes' });
    if (known) set({ isShown: !isShown });
    else void load();
  },
  isEnabled: hasFormer,
  isOn: ({ comparison }) => comparison.getState().isShown,
};

export const nextChangeAction: Action = {
  id: 'next-change',
  name: 'Next change',
  sentence: 'Frames the next change of the list; neighbours are framed together.',
  keys: ['>', 'Shift+>'],
  icon: StepForward,
  run: step(1),
  isEnabled: isCompared,
};

export const previousChangeAction: Action = {
  id: 'previous-change',
  name: 'Previous change',
  sentence: 'Frames the change before in the list.',
  keys: ['<', 'Shift+<'],
  icon: StepBack,
  run: step(-1),
  isEnabled: isCompared,
};

export const beforeAndAfterAction: Action<'panes' | 'comparison'> = {
  id: 'before-and-after',
  name: 'Before and after',
  sentence: 'Shows the two compared revisions side by side, tied to the same place and scale.',
  keys: ['|', 'Shift+|'],
  icon: Columns2,
  run({ panes, comparison }) {
    const compared = comparison.getState().comparison;
    if (compared) void panes.getState().beforeAndAfter(compared.from, compared.to);
  },
  isEnabled: isCompared,
};

export const changeActions: readonly Action[] = [
  changesAction,
  nextChangeAction,
  previousChangeAction,
  beforeAndAfterAction,
];
