import { sameCamera, type Camera } from '../camera/camera.ts';
import type { ClipVolume } from '../clip/clip-volume.ts';
import type { ObjectMask } from '../drawing/object-mask.ts';
import { samePlane } from '../plane/work-plane.ts';
import type { SolidLook } from '../solid/solid-looks.ts';
import { kindNames, type Shown, type ShownKinds } from './shown.ts';

/** All that a pane shows of its drawing: from where, and how. Immutable. */
export interface View {
  /** Doubles in drawing units; angles in radians. */
  readonly camera: Camera;
  readonly shown: Shown;
}

/** What of a kept view is to be taken. */
export type ViewPart = 'place' | 'looks' | 'all';

/** A view with another one's place, looks, or both. */
export const restore = (now: View, kept: View, part: ViewPart): View => ({
  camera: part === 'looks' ? now.camera : kept.camera,
  shown: part === 'place' ? now.shown : kept.shown,
});

/** The parts of what is shown in which two views can differ. */
export const shownParts = ['look', 'kinds', 'layers', 'objects', 'clips', 'marks', 'plane', 'ground'] as const;
export type ShownPart = (typeof shownParts)[number];

/** One thing that is different in a second view; words are made where it is shown. */
export type Difference =
  | { readonly part: 'place' }
  | { readonly part: 'look'; readonly look: SolidLook }
  | {
      readonly part: 'kinds';
      readonly hidden: readonly (keyof ShownKinds)[];
      readonly shown: readonly (keyof ShownKinds)[];
    }
  /** Ids of layers. */
  | { readonly part: 'layers'; readonly hidden: readonly number[]; readonly shown: readonly number[] }
  /** How many objects. */
  | { readonly part: 'objects'; readonly hidden: number; readonly shown: number }
  | {
      readonly part: 'clips';
      readonly added: readonly ClipVolume[];
      readonly removed: readonly ClipVolume[];
      readonly changed: readonly ClipVolume[];
    }
  | { readonly part: 'marks'; readonly areShown: boolean }
  | { readonly part: 'plane'; readonly name: string }
  | { readonly part: 'ground'; readonly groundPlan: string | null };

/** What is different in a second view; empty if nothing is. */
export function differences(a: View, b: View): readonly Difference[] {
  const place: Difference[] = sameCamera(a.camera, b.camera) ? [] : [{ part: 'place' }];
  return [...place, ...shownDifferences(a.shown, b.shown)];
}

/** Whether two views show the same from the same place. */
export const sameView = (a: View, b: View): boolean =>
  (a.shown === b.shown || shownDifferences(a.shown, b.shown).length === 0) && sameCamera(a.camera, b.camera);

/** What is shown differently in the second. Costs a look at every object only where other sets of them are hidden. */
export function shownDifferences(a: Shown, b: Shown): readonly Difference[] {
  if (a === b) return [];
  const found: Difference[] = [];
  if (a.look !== b.look) found.push({ part: 'look', look: b.look });
  const kinds = kindNames.filter((kind) => a.kinds[kind] !== b.kinds[kind]);
  if (kinds.length > 0) {
    const [shown, hidden] = [kinds.filter((kind) => b.kinds[kind]), kinds.filter((kind) => a.kinds[kind])];
    found.push({ part: 'kinds', hidden, shown });
  }
  const [layersHidden, layersShown] = [
    without(b.hiddenLayers, a.hiddenLayers),
    without(a.hiddenLayers, b.hiddenLayers),
  ];
  if (layersHidden.length + layersShown.length > 0)
    found.push({ part: 'layers', hidden: layersHidden, shown: layersShown });
  const objects = {
    hidden: objectsWithout(b.hiddenObjects, a.hiddenObjects),
    shown: objectsWithout(a.hiddenObjects, b.hiddenObjects),
  };
  if (objects.hidden + objects.shown > 0) found.push({ part: 'objects', ...objects });
  const clips = clipDifference(a.clips, b.clips);
  if (clips) found.push(clips);
  const marksDiffer = a.marks.areShown !== b.marks.areShown || !sameMembers(a.marks.hiddenLayers, b.marks.hiddenLayers);
  if (marksDiffer) found.push({ part: 'marks', areShown: b.marks.areShown });
  if (!samePlane(a.workPlane.plane, b.workPlane.plane)) found.push({ part: 'plane', name: b.workPlane.name });
  if (a.groundPlan !== b.groundPlan) found.push({ part: 'ground', groundPlan: b.groundPlan });
  return found;
}

const without = <T>(all: ReadonlySet<T>, others: ReadonlySet<T>): T[] =>
  all === others ? [] : [...all].filter((one) => !others.has(one));

const sameMembers = <T>(a: ReadonlySet<T>, b: ReadonlySet<T>): boolean =>
  a === b || (a.size === b.size && [...a].every((one) => b.has(one)));

/** How many objects the one hides and the other doesn't. */
function objectsWithout(mask: ObjectMask | null, other: ObjectMask | null): number {
  if (mask === other || !mask) return 0;
  if (!other) return mask.count;
  return mask.bytes.reduce((count, byte, object) => count + Number(byte !== 0 && !other.has(object)), 0);
}

/** Clips of two views are the same ones if they bear the same name. */
function clipDifference(a: readonly ClipVolume[], b: readonly ClipVolume[]): Difference | null {
  if (a === b) return null;
  const named = (clips: readonly ClipVolume[], { name }: ClipVolume): ClipVolume | undefined =>
    clips.find((one) => one.name === name);
  const added = b.filter((clip) => !named(a, clip));
  const removed = a.filter((clip) => !named(b, clip));
  const changed = b.filter((clip) => {
    const before = named(a, clip);
    return before && !sameClip(before, clip);
  });
  return added.length + removed.length + changed.length > 0 ? { part: 'clips', added, removed, changed } : null;
}

function sameClip(a: ClipVolume, b: ClipVolume): boolean {
  const numbers = ({ centre: c, half: h, orientation: q }: ClipVolume): number[] => [
    c.x,
    c.y,
    c.z,
    h.x,
    h.y,
    h.z,
    q.x,
    q.y,
    q.z,
    q.w,
  ];
  const [p, q] = [numbers(a), numbers(b)];
  return a.kind === b.kind && a.keeps === b.keeps && a.isOn === b.isOn && p.every((number, i) => number === q[i]);
}
