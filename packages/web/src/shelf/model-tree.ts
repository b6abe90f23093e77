import type { SolidTable } from '@gull-pane/protocol/solid-table';

/** A branch of a model's tree, or an object, which is a leaf. */
export interface Branch {
  readonly key: string;
  readonly title: string;
  readonly isObject: boolean;
  /** Objects below it. */
  readonly count: number;
  readonly children: Branch[];
}

/**
 * The tree with its objects as leaves.
 * @param wanted only objects whose name holds it, in any case, and what they hang on; all if empty
 */
export function branchesOf({ tree, names, nodes }: SolidTable, wanted = ''): Branch[] {
  const needle = wanted.trim().toLocaleLowerCase();
  interface Growing extends Branch {
    count: number;
  }
  const branches = tree.names.map((name, index): Growing => ({
    key: `b${index}`,
    title: name || 'Branch',
    isObject: false,
    count: 0,
    children: [],
  }));
  const tops: Growing[] = [];
  // a branch that holds what is wanted by its own name holds all of it
  const isMeant = tree.names.map(() => false);
  tree.names.forEach((name, index) => {
    const parent = tree.parents[index]!;
    isMeant[index] =
      needle !== '' && (name.toLocaleLowerCase().includes(needle) || (parent >= 0 && isMeant[parent] === true));
    (parent >= 0 ? branches[parent]!.children : tops).push(branches[index]!);
  });
  names.forEach((name, object) => {
    const node = nodes[object] ?? -1;
    const isWanted = needle === '' || isMeant[node] === true || name.toLocaleLowerCase().includes(needle);
    if (!isWanted) return;
    const leaf: Branch = { key: `o${object}`, title: name, isObject: true, count: 1, children: [] };
    if (node < 0) tops.push(leaf);
    else branches[node]!.children.push(leaf);
  });
  for (let index = branches.length - 1; index >= 0; index--) {
    const branch = branches[index]!;
    // children stand behind their parents
    const kept = branch.children.filter(({ count }) => count > 0);
    branch.children.splice(0, branch.children.length, ...kept);
    branch.count = kept.reduce((sum, { count }) => sum + count, 0);
  }
  return tops.filter(({ count }) => count > 0);
}

/** The numbers of the objects below a branch. */
export function objectsBelow(branch: Branch): number[] {
  if (branch.isObject) return [Number(branch.key.slice(1))];
  return branch.children.flatMap(objectsBelow);
}
