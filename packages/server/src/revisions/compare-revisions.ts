import { clustersOf, joinBoxes, type CompareBox } from '@gull-pane/core/compare/clusters';
import { CompareSide, NONE, TextTable } from '@gull-pane/core/compare/compare-side';
import { boxOf, matchObjects, type ChangeWay } from '@gull-pane/core/compare/match-objects';
import { MOST_CHANGES, type ChangeDto, type ComparisonDto } from '@gull-pane/protocol/comparison';
import { readStore } from '../pyramid/read-store.ts';
import type { CompareOrder, RevisionFolder } from './compare-messages.ts';
import { comparedObjects, kindNames } from './compared-objects.ts';
import { linesOf } from './change-lines.ts';

/** Changes that are nearer to each other than this share of the drawing's size are one cluster. */
const CLUSTER_SHARE = 0.006;

interface Found {
  readonly before: number | null;
  readonly after: number | null;
  readonly ways: readonly (ChangeWay | 'added' | 'gone')[];
  readonly by?: readonly number[];
}

/** What comes of a comparison. */
export interface Compared {
  readonly told: ComparisonDto;
  /** Of each object of the later revision the one of the earlier that it is unchanged; −1 for all others. */
  readonly same: Int32Array<ArrayBuffer>;
}

/** Compares two revisions of a drawing, object by object. */
export function compareRevisions({ from, to, kind, tolerance }: CompareOrder): Compared {
  const axes = kind === 'solid' ? 3 : 2;
  const table = new TextTable();
  const sideOf = (revision: RevisionFolder): CompareSide => {
    const side = new CompareSide(axes, table);
    for (const object of comparedObjects(revision)) side.add(object);
    return side;
  };
  const [before, after] = [sideOf(from), sideOf(to)];
  const { gone, added, changed, same } = matchObjects(before, after, tolerance);
  const all: Found[] = [
    ...changed.map((one): Found => ({ ...one })),
    ...added.map((object): Found => ({ before: null, after: object, ways: ['added'] })),
    ...gone.map((object): Found => ({ before: object, after: null, ways: ['gone'] })),
  ];
  const found = all.slice(0, MOST_CHANGES);
  const boxes = found.map((one) => boxOfChange(one, before, after));
  const size = sizeOf(boxes, [before, after]);
  const clusters = clustersOf(boxes, CLUSTER_SHARE * size);
  const clusterOf = new Map(clusters.flatMap(({ members }, k) => members.map((member) => [member, k] as const)));
  const linesBefore = linesOfAll(
    from.folder,
    found.flatMap((one) => (one.before === null ? [] : [one.before])),
  );
  const linesAfter = linesOfAll(
    to.folder,
    found.flatMap((one) => (one.after === null ? [] : [one.after])),
  );
  const textOf = (number: number): string | undefined => (number === NONE ? undefined : table.texts[number]);
  const changes = found.map((one, k): ChangeDto => {
    const [side, object] = one.after === null ? [before, one.before!] : [after, one.after];
    const label = textOf(side.labels.at(object));
    const was = one.before !== null && one.after !== null ? one.before : null;
    const labelBefore = was === null ? undefined : textOf(before.labels.at(was));
    const layerBefore = was === null ? undefined : textOf(before.layers.at(was));
    const layer = textOf(side.layers.at(object)) ?? '';
    return {
      key: `${one.before ?? ''}>${one.after ?? ''}`,
      before: one.before,
      after: one.after,
      ways: one.ways,
      ...(one.by ? { by: one.by } : {}),
      kind: kindNames[side.kinds.at(object)]!,
      layer,
      ...(label === undefined ? {} : { label }),
      was: {
        ...(labelBefore !== undefined && labelBefore !== label ? { label: labelBefore } : {}),
        ...(layerBefore !== undefined && layerBefore !== layer ? { layer: layerBefore } : {}),
      },
      box: boxes[k]!,
      cluster: clusterOf.get(k)!,
      linesBefore: one.before === null ? [] : linesBefore.get(one.before)!,
      linesAfter: one.after === null ? [] : linesAfter.get(one.after)!,
    };
  });
  const told: ComparisonDto = {
    from: from.number,
    to: to.number,
    axes,
    tolerance,
    total: all.length,
    changes,
    same: after.count - added.length - changed.length,
    clusters: clusters.map(({ box, members }) => ({ box, changes: members })),
  };
  return { told, same };
}

function boxOfChange(one: Found, before: CompareSide, after: CompareSide): CompareBox {
  const boxes = [
    ...(one.before === null ? [] : [boxOf(before, one.before)]),
    ...(one.after === null ? [] : [boxOf(after, one.after)]),
  ];
  return boxes.reduce((a, b) => joinBoxes(a, b));
}

/** How large the drawing is: by the boxes of a sample of its objects and of all that changed, drawing units. */
function sizeOf(boxes: readonly CompareBox[], sides: readonly CompareSide[]): number {
  let whole: CompareBox | null = null;
  const add = (box: CompareBox): void => {
    if (box.min[0]! <= box.max[0]!) whole = whole ? joinBoxes(whole, box) : box;
  };
  boxes.forEach(add);
  for (const side of sides) {
    const step = Math.max(Math.floor(side.count / 2000), 1);
    for (let object = 0; object < side.count; object += step) add(boxOf(side, object));
  }
  const box = whole as CompareBox | null;
  return box ? Math.hypot(...box.max.map((value, axis) => value - box.min[axis]!)) : 0;
}

/** The lines of some objects of a store, by their numbers. */
function linesOfAll(folder: string, objects: readonly number[]): Map<number, number[][]> {
  const wanted = new Set(objects);
  const lines = new Map<number, number[][]>();
  if (wanted.size === 0) return lines;
  for (const stored of readStore(folder)) if (wanted.has(stored.id)) lines.set(stored.id, linesOf(stored));
  return lines;
}
