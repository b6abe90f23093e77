import { markWays, type MarkWay } from '../marks/build.ts';
import { measureKinds, type MeasureKind } from '../measure/measure-kinds.ts';
import { collectTool, type CollectTool } from './collect.ts';

/** Something that collects points: its kinds are data, so that a new one is an entry here or in the lists it is made of. */
export interface Collectable {
  readonly id: string;
  readonly group: 'measure' | 'mark' | 'change' | 'plane';
  readonly name: string;
  /** One sentence. */
  readonly sentence: string;
  /** What is expected first, second and so on; the last for all that follow. */
  readonly expects: readonly string[];
  readonly least: number;
  readonly most: number;
  readonly for?: 'flat' | 'solid';
  /** So many of its first points are faces: nothing else is looked for then. */
  readonly faces?: number;
  /** What of a mark it draws; null if none. */
  readonly way: MarkWay | null;
  readonly tool: CollectTool;
}

type Plain = Omit<Collectable, 'tool' | 'group' | 'way'>;

const changes: readonly Plain[] = [
  {
    id: 'move-marks',
    name: 'Move marks',
    least: 2,
    most: 2,
    sentence: 'Moves the chosen marks from one place to another.',
    expects: ['where to take hold of the marks', 'where that place shall be'],
  },
  {
    id: 'copy-marks',
    name: 'Copy marks',
    least: 2,
    most: 2,
    sentence: 'Puts copies of the chosen marks elsewhere.',
    expects: ['where to take hold of the marks', 'where that place of the copies shall be'],
  },
  {
    id: 'turn-marks',
    name: 'Turn marks',
    least: 3,
    most: 3,
    sentence: 'Turns the chosen marks about a place, in the work plane.',
    expects: ['the place to turn about', 'a place to turn', 'where that place shall be'],
  },
];

const planes: readonly Plain[] = [
  {
    id: 'plane-points',
    name: 'Plane by three points',
    least: 3,
    most: 3,
    for: 'solid',
    sentence: 'Lays the work plane through three points: its origin, one on its x axis, one on the side of y.',
    expects: ['the origin of the plane', 'a point on its x axis', 'a point on the side of its y axis'],
  },
  {
    id: 'plane-face',
    name: 'Plane by a face',
    least: 1,
    most: 1,
    for: 'solid',
    faces: 1,
    sentence: 'Lays the work plane on the face that you click.',
    expects: ['a face'],
  },
  {
    id: 'plane-edge',
    name: 'Plane by an edge',
    least: 3,
    most: 3,
    for: 'solid',
    sentence: 'Lays the work plane along an edge and in a direction.',
    expects: ['where the edge begins', 'where it ends', 'a point that tells the direction'],
  },
  {
    id: 'plane-offset',
    name: 'Plane through a point',
    least: 1,
    most: 1,
    for: 'solid',
    sentence:
      'Moves the work plane along its normal until it goes through a point; a length that is typed moves it so far.',
    expects: ['a point that the plane shall go through'],
  },
];

const collectable = (
  group: Collectable['group'],
  plain: Plain,
  { isEnough, way }: { readonly isEnough?: MeasureKind['isEnough']; readonly way?: MarkWay } = {},
): Collectable => {
  const { id, name, sentence, expects, least, most } = plain;
  const collecting = { least, most, handsOver: group !== 'measure', ...(isEnough ? { isEnough } : {}) };
  return {
    id,
    group,
    name,
    sentence,
    expects,
    least,
    most,
    ...(plain.for ? { for: plain.for } : {}),
    ...(plain.faces ? { faces: plain.faces } : {}),
    way: way ?? null,
    tool: collectTool(collecting),
  };
};

export const collectables: readonly Collectable[] = [
  ...measureKinds.map((kind) => collectable('measure', kind, kind)),
  ...markWays.map((way) => collectable('mark', { ...way, id: `mark-${way.id}` }, { way })),
  ...changes.map((change) => collectable('change', change)),
  ...planes.map((plane) => collectable('plane', plane)),
];

const byId: ReadonlyMap<string, Collectable> = new Map(collectables.map((each) => [each.id, each]));

/** @throws RangeError for an id that isn't one of {@link collectables} */
export function collectableOf(id: string): Collectable {
  const found = byId.get(id);
  if (!found) throw new RangeError(`collectableOf: there is no tool ${id}`);
  return found;
}
