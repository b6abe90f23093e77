import type { Camera } from '@gull-pane/core/camera/camera';
import type { Shown, ShownKinds } from '@gull-pane/core/view/shown';
import { shownDifferences, type Difference, type View } from '@gull-pane/core/view/view';
import { grouped } from '../basics/figures';
import { kindNames } from './kind-names';
import { lookNames } from './look-names';

/** In words, what going from one view to another would change. */
export const viewDifferences = (now: View, other: View): string[] => [
  ...placeDifferences(now.camera, other.camera),
  ...shownInWords(now.shown, other.shown),
];

/** What is shown in another way in the second, in words. */
export const shownInWords = (a: Shown, b: Shown): string[] => shownDifferences(a, b).map(partInWords);

function partInWords(difference: Difference): string {
  switch (difference.part) {
    case 'place':
      return 'another place';
    case 'look':
      return `look ${lookNames[difference.look]}`;
    case 'kinds': {
      const named = (kinds: readonly (keyof ShownKinds)[]): string[] =>
        kindNames.flatMap(([kind, name]) => (kinds.includes(kind) ? [name.toLowerCase()] : []));
      const { hidden, shown } = difference;
      return [
        ...(hidden.length > 0 ? [`without ${named(hidden).join(', ')}`] : []),
        ...(shown.length > 0 ? [`with ${named(shown).join(', ')}`] : []),
      ].join(', ');
    }
    case 'layers':
      return hiddenAndShown(difference.hidden.length, difference.shown.length, 'layer');
    case 'objects':
      return hiddenAndShown(difference.hidden, difference.shown, 'object');
    case 'clips': {
      const { added, removed, changed } = difference;
      return [
        ...added.map(({ name }) => `${name} added`),
        ...removed.map(({ name }) => `${name} removed`),
        ...changed.map(({ name }) => `${name} changed`),
      ].join(', ');
    }
    case 'marks':
      return difference.areShown ? 'marks shown' : 'marks hidden';
    case 'plane':
      return difference.name === '' ? 'another work plane' : `work plane ${difference.name}`;
    case 'ground':
      return difference.groundPlan === null ? 'no plan on the ground' : 'a plan on the ground';
  }
}

function hiddenAndShown(hidden: number, shown: number, what: string): string {
  const counted = (count: number): string => `${grouped(count)} ${count === 1 ? what : `${what}s`}`;
  return [...(hidden > 0 ? [`${counted(hidden)} hidden`] : []), ...(shown > 0 ? [`${counted(shown)} shown`] : [])].join(
    ', ',
  );
}

/** Differences that can be seen: of place more than two px, of scale half a per cent. */
function placeDifferences(now: Camera, then: Camera): string[] {
  const told: string[] = [];
  const { target: a } = then;
  const { target: b } = now;
  const apart = Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z);
  if (apart > 2 * Math.max(then.unitsPerPx, now.unitsPerPx)) told.push('another place');
  if (Math.abs(then.unitsPerPx / now.unitsPerPx - 1) > 0.005)
    told.push(then.unitsPerPx < now.unitsPerPx ? 'closer' : 'farther');
  const [p, q] = [then.orientation, now.orientation];
  if (Math.abs(p.x * q.x + p.y * q.y + p.z * q.z + p.w * q.w) < 1 - 1e-6) told.push('another direction');
  if (then.projection !== now.projection) told.push(`in ${then.projection}`);
  return told;
}
