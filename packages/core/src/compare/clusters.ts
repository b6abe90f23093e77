/** A box of any number of axes, drawing units. */
export interface CompareBox {
  readonly min: readonly number[];
  readonly max: readonly number[];
}

/** Changes that lie beside one another. */
export interface Cluster {
  readonly box: CompareBox;
  /** Their places in the list, rising. */
  readonly members: readonly number[];
}

/** The smallest box around two boxes. */
export const joinBoxes = (a: CompareBox, b: CompareBox): CompareBox => ({
  min: a.min.map((value, k) => Math.min(value, b.min[k]!)),
  max: a.max.map((value, k) => Math.max(value, b.max[k]!)),
});

/**
 * Puts boxes together that are no farther apart than some reach along every axis, also by way of others. They are swept
 * along the first axis, so that only those that are near there are compared.
 * @param reach drawing units
 * @returns the clusters, the one with the first member first
 */
export function clustersOf(boxes: readonly CompareBox[], reach: number): Cluster[] {
  const parent = boxes.map((_, k) => k);
  const root = (k: number): number => {
    let at = k;
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!;
    return at;
  };
  const order = boxes.map((_, k) => k).sort((a, b) => boxes[a]!.min[0]! - boxes[b]!.min[0]!);
  let open: number[] = [];
  for (const k of order) {
    const box = boxes[k]!;
    open = open.filter((other) => boxes[other]!.max[0]! + reach >= box.min[0]!);
    for (const other of open) if (areNear(boxes[other]!, box, reach)) parent[root(k)] = root(other);
    open.push(k);
  }
  const found = new Map<number, { box: CompareBox; members: number[] }>();
  boxes.forEach((box, k) => {
    const known = found.get(root(k));
    if (!known) found.set(root(k), { box, members: [k] });
    else {
      known.box = joinBoxes(known.box, box);
      known.members.push(k);
    }
  });
  return [...found.values()];
}

const areNear = (a: CompareBox, b: CompareBox, reach: number): boolean =>
  a.min.every((low, k) => low - reach <= b.max[k]! && b.min[k]! - reach <= a.max[k]!);
