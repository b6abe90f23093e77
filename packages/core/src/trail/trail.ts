import type { Camera } from '../camera/camera.ts';
import { sameView, shownParts, type ShownPart, type View } from '../view/view.ts';

/** How a view was reached: by a movement, or by showing something in another way. */
export type StepKind = 'open' | 'wheel' | 'drag' | 'keys' | 'jump' | ShownPart;

/** Steps of these kinds that follow one another closely are one. */
const inBursts: ReadonlySet<StepKind> = new Set(['wheel', 'keys', ...shownParts]);

export interface TrailEntry extends View {
  readonly kind: StepKind;
  /** When the step last grew, ms on the caller's clock. */
  readonly timeMs: number;
  /** Index of the view it was reached from, −1 for the first. */
  readonly parent: number;
  /** It was reached in another window. */
  readonly isElsewhere?: boolean;
}

/**
 * Where a pane has been: a tree of views, of which the pane walks one branch. A new move after going back starts a new
 * branch beside the left one, so that nothing is lost.
 */
export interface Trail {
  readonly entries: readonly TrailEntry[];
  /** Index of the view shown. */
  readonly current: number;
  /** For each entry the child that Forward goes to, −1 at a tip. */
  readonly forward: readonly number[];
}

/** A pause longer than this ends a burst of notches or key presses, ms. */
export const BURST_GAP_MS = 500;

/** So many views are kept at most; when there are more, only this many stay. */
const MOST_ENTRIES = 1200;
const KEPT_ENTRIES = 1000;

/** A trail with one view. @param timeMs when it was shown, ms */
export function startTrail({ camera, shown }: View, timeMs: number): Trail {
  return { entries: [{ camera, shown, kind: 'open', timeMs, parent: -1 }], current: 0, forward: [-1] };
}

/**
 * Takes down a view that was reached. A burst (of notches, keys, acts of one kind) within {@link BURST_GAP_MS} grows the
 * step it began; a drag is handed in once, at its end. A view that is the present one changes nothing: the same trail
 * comes back.
 */
export function record(trail: Trail, { camera, shown }: View, kind: StepKind, timeMs: number): Trail {
  const present = trail.entries[trail.current]!;
  if (sameView(present, { camera, shown })) return trail;
  const isBurst = inBursts.has(kind) && present.kind === kind;
  const growing = isBurst && timeMs - present.timeMs <= BURST_GAP_MS && trail.forward[trail.current] === -1;
  if (growing) {
    return { ...trail, entries: trail.entries.with(trail.current, { ...present, camera, shown, timeMs }) };
  }
  const index = trail.entries.length;
  const grown = {
    entries: [...trail.entries, { camera, shown, kind, timeMs, parent: trail.current }],
    current: index,
    forward: [...trail.forward.with(trail.current, index), -1],
  };
  return grown.entries.length > MOST_ENTRIES ? pruned(grown, KEPT_ENTRIES) : grown;
}

/**
 * Forgets the oldest views, those of the branch being walked last. What hung on a forgotten view hangs on the nearest
 * one before it that is left, or on the first.
 */
export function pruned(trail: Trail, most: number): Trail {
  const { entries } = trail;
  if (entries.length <= most) return trail;
  const branch = new Set(branchOf(trail));
  const byWorth = entries
    .map((_, index) => index)
    .sort((a, b) => Number(branch.has(b)) - Number(branch.has(a)) || b - a);
  const kept = [...new Set([trail.current, ...byWorth])].slice(0, Math.max(most, 1)).sort((a, b) => a - b);
  const placeOf = new Map(kept.map((index, place) => [index, place]));
  const keptParent = (index: number): number => {
    let at = entries[index]!.parent;
    while (at >= 0 && !placeOf.has(at)) at = entries[at]!.parent;
    return at < 0 ? -1 : placeOf.get(at)!;
  };
  const parents = kept.map(keptParent);
  const root = parents.indexOf(-1);
  return {
    entries: kept.map((index, place) => ({
      ...entries[index]!,
      parent: parents[place]! >= 0 || place === root ? parents[place]! : root,
    })),
    current: placeOf.get(trail.current)!,
    forward: kept.map((index) => {
      let at = trail.forward[index]!;
      while (at >= 0 && !placeOf.has(at)) at = trail.forward[at]!;
      return at < 0 ? -1 : placeOf.get(at)!;
    }),
  };
}

/** The views of the branch being walked, first to last, as indices of entries. */
export function branchOf(trail: Trail): number[] {
  const branch: number[] = [];
  for (let at = trail.current; at >= 0; at = trail.entries[at]!.parent) branch.push(at);
  branch.reverse();
  for (let at = trail.forward[trail.current]!; at >= 0; at = trail.forward[at]!) branch.push(at);
  return branch;
}

/** To any view; the branch through it becomes the one being walked. */
export function goToEntry(trail: Trail, entry: number): Trail {
  if (entry === trail.current || !trail.entries[entry]) return trail;
  const forward = [...trail.forward];
  for (let at = entry; trail.entries[at]!.parent >= 0; at = trail.entries[at]!.parent)
    forward[trail.entries[at]!.parent] = at;
  return { ...trail, current: entry, forward };
}

/** Where the branches end that were left at a view, newest first. */
export function leftTips(trail: Trail, entry: number): number[] {
  const tips: number[] = [];
  trail.entries.forEach(({ parent }, child) => {
    if (parent !== entry || trail.forward[entry] === child) return;
    let tip = child;
    while (trail.forward[tip]! >= 0) tip = trail.forward[tip]!;
    tips.push(tip);
  });
  return tips.reverse();
}

/** Whether there is a view before the present one. */
export const canGoBack = (trail: Trail): boolean => trail.entries[trail.current]!.parent >= 0;
/** Whether there is a view after the present one on its branch. */
export const canGoForward = (trail: Trail): boolean => trail.forward[trail.current]! >= 0;

/** One step back along the branch; the same trail at its beginning. */
export function goBack(trail: Trail): Trail {
  const { parent } = trail.entries[trail.current]!;
  if (parent < 0) return trail;
  return { ...trail, current: parent, forward: trail.forward.with(parent, trail.current) };
}

/** One step forward along the branch last walked; the same trail at its tip. */
export function goForward(trail: Trail): Trail {
  const next = trail.forward[trail.current]!;
  return next < 0 ? trail : { ...trail, current: next };
}

/** The view that the trail stands on. */
export const currentView = (trail: Trail): View => trail.entries[trail.current]!;
/** The camera of the view that the trail stands on. */
export const currentCamera = (trail: Trail): Camera => trail.entries[trail.current]!.camera;

/** How long the branch being walked is, and where on it the pane stands, from 0. */
export function branchPosition(trail: Trail): { length: number; index: number } {
  const branch = branchOf(trail);
  return { length: branch.length, index: branch.indexOf(trail.current) };
}
