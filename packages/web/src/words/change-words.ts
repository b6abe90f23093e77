import type { ChangeDto } from '@gull-pane/protocol/comparison';
import type { ReviewState } from '@gull-pane/protocol/revisions';
import { exactText, grouped } from '../basics/figures';
import type { Way } from '../store/comparison-store';

/** The ways in which something differs, in the order of the list. */
export const wayNames: readonly (readonly [Way, string])[] = [
  ...([
    ['added', 'Added'],
    ['gone', 'Removed'],
    ['moved', 'Moved'],
    ['reshaped', 'Reshaped'],
  ] as const),
  ...([
    ['restyled', 'Restyled'],
    ['label', 'Reworded'],
    ['layer', 'Other layer'],
  ] as const),
];
const nameOfWay = new Map<Way, string>(wayNames);

/** What can be said of a change. */
export const stateNames: Readonly<Record<ReviewState, string>> = {
  seen: 'Seen',
  accepted: 'Accepted',
  questioned: 'Questioned',
};

/** The colours of what was and of what is: told apart by people who see red and green alike, too. */
export const coloursOf = (styles: CSSStyleDeclaration): { readonly before: string; readonly after: string } => ({
  before: styles.getPropertyValue('--was'),
  after: styles.getPropertyValue('--is'),
});

/** What a change is about: `KS-VA-0405`, or the layer of what has no words. */
export const subjectOf = ({ label, layer }: Pick<ChangeDto, 'label' | 'layer'>): string => label ?? layer;

/** What happened to it: `Moved by 350 mm`, `Reworded from “KS-VA-0405”`. */
export function happenedTo({ ways, by, was }: ChangeDto, unit: string): string {
  const suffix = unit === 'none' ? '' : ` ${unit}`;
  return ways
    .map((way) => {
      const name = nameOfWay.get(way)!;
      if (way === 'moved' && by) return `${name} by ${exactText(Number(Math.hypot(...by).toPrecision(9)))}${suffix}`;
      if (way === 'label' && was.label !== undefined) return `${name} from “${was.label}”`;
      if (way === 'layer' && was.layer !== undefined) return `From layer ${was.layer}`;
      return name;
    })
    .join(', ');
}

/** A cluster of changes in a few words: `14 changes`, `3 added, 2 moved`. */
export function clusterInWords(changes: readonly ChangeDto[]): string {
  const counts = wayNames.flatMap(([way, name]) => {
    const count = changes.filter(({ ways }) => ways.includes(way)).length;
    return count === 0 ? [] : [`${grouped(count)} ${name.toLowerCase()}`];
  });
  return counts.join(', ');
}

/** Cells of a spreadsheet, quoted where they have to be (RFC 4180). */
const cell = (text: string): string => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** All changes as CSV (RFC 4180), with what was said of each. */
export function changesAsCsv(
  changes: readonly ChangeDto[],
  unit: string,
  said: (key: string) => { readonly state: string; readonly note: string; readonly person: string } | undefined,
): string {
  const head = ['cluster', 'object', 'layer', 'change', 'moved by', 'was', 'middle', 'state', 'note', 'person'];
  const rows = changes.map((change) => {
    const { key, cluster, layer, ways, by, was, box } = change;
    const { state = 'open', note = '', person = '' } = said(key) ?? {};
    const middle = box.min.map((value, axis) => (value + box.max[axis]!) / 2).join(' ');
    const moved = by ? `${by.join(' ')}${unit === 'none' ? '' : ` ${unit}`}` : '';
    const former = [was.label, was.layer].filter((one) => one !== undefined).join(' / ');
    return [String(cluster + 1), subjectOf(change), layer, ways.join(' '), moved, former, middle, state, note, person];
  });
  return [head, ...rows].map((row) => row.map(cell).join(',')).join('\r\n');
}
