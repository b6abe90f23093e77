import type { Layer } from '@gull-pane/core/drawing/model';

/** Groups nested deeper than this belong to the layer above. */
const MAX_DEPTH = 4;
/** More named groups than this are not told apart. */
const MAX_GROUPS = 4096;
const NAMELESS = 'Without a layer';

interface GroupNode {
  name: string;
  readonly parent: number;
  readonly depth: number;
  elements: number;
}

/**
 * Makes layers of named groups: the outermost ones, unless one of them merely wraps the whole file, which is then looked
 * through. What stands outside every named group has a layer of its own.
 */
export class LayerTree {
  readonly #nodes: GroupNode[] = [{ name: NAMELESS, parent: -1, depth: 0, elements: 0 }];

  /** Node of what stands in no named group. */
  static readonly root = 0;

  /** @returns the node of a named group inside `parent`; the parent itself where groups are too many or too deep */
  open(parent: number, name: string): number {
    const depth = this.#nodes[parent]!.depth + 1;
    if (depth > MAX_DEPTH || this.#nodes.length >= MAX_GROUPS) return parent;
    return this.#nodes.push({ name, parent, depth, elements: 0 }) - 1;
  }

  rename(node: number, name: string): void {
    if (node !== LayerTree.root) this.#nodes[node]!.name = name;
  }

  count(node: number): void {
    this.#nodes[node]!.elements++;
  }

  /** The layers of the whole file and, for each node, the index of its layer (−1 where nothing was drawn). */
  finish(): { layers: Layer[]; layerOfNode: number[] } {
    const nodes = this.#nodes;
    const below = nodes.map((node) => node.elements);
    for (let i = nodes.length - 1; i > 0; i--) below[nodes[i]!.parent]! += below[i]!;
    let wrapper = 0;
    for (let only = this.#onlyChild(wrapper, below); only !== undefined; only = this.#onlyChild(wrapper, below))
      wrapper = only;

    const layers: Layer[] = [];
    const byName = new Map<string, number>();
    const layerNamed = (name: string): number => {
      const known = byName.get(name);
      if (known !== undefined) return known;
      byName.set(name, layers.length);
      return layers.push({ name }) - 1;
    };
    const layerOfNode = nodes.map(() => -1);
    nodes.forEach((node, index) => {
      if (below[index] === 0) return;
      const parentLayer = node.parent < 0 ? -1 : layerOfNode[node.parent]!;
      const isTop = node.parent === wrapper;
      if (isTop) layerOfNode[index] = layerNamed(node.name);
      else if (parentLayer >= 0 && node.parent !== wrapper) layerOfNode[index] = parentLayer;
      else if (node.elements > 0) layerOfNode[index] = layerNamed(index === 0 ? NAMELESS : node.name);
    });
    return { layers, layerOfNode };
  }

  /** The one group that holds everything of `node`, if it has groups of its own to look into. */
  #onlyChild(node: number, below: readonly number[]): number | undefined {
    if (this.#nodes[node]!.elements > 0) return undefined;
    const filled = this.#nodes.flatMap((child, index) => (child.parent === node && below[index]! > 0 ? [index] : []));
    const [only] = filled;
    if (only === undefined || filled.length > 1) return undefined;
    const hasGroups = this.#nodes.some((child, index) => child.parent === only && below[index]! > 0);
    return hasGroups ? only : undefined;
  }
}
