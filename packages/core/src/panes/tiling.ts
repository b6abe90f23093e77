/**
 * How panes tile an area: a tree whose leaves are panes and whose branches are rows and columns. Shares are parts of a
 * branch's length; where each pane lies, in whole px, is told by {@link areasOf}. All functions return new trees.
 */
export type Tiling = PaneLeaf | Branch;

export interface PaneLeaf {
  readonly pane: string;
}

export interface Branch {
  /** A row lays its parts side by side, a column one above the other. */
  readonly along: 'row' | 'column';
  /** At least two. */
  readonly parts: readonly Tiling[];
  /** One a part, all above 0; together 1. */
  readonly shares: readonly number[];
}

/** A rectangle in whole CSS px, y down. */
export interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What lies between two parts of a branch. */
export interface Divider {
  /** The way from the root to the branch. */
  readonly path: readonly number[];
  /** It lies behind this part of it. */
  readonly index: number;
  readonly along: Branch['along'];
  readonly area: Area;
  /** Where its beginning may be, CSS px of the whole area, so that no pane gets too small. */
  readonly least: number;
  readonly most: number;
}

/** Panes lie so far apart, CSS px. */
export const GAP_PX = 2;
/** No pane is made smaller by a divider, CSS px. */
export const LEAST_PANE = { width: 220, height: 140 } as const;
/** So many panes there may be. */
export const MOST_PANES = 9;

/** Whether a part of a tiling is one pane rather than a row or column of parts. */
export const isLeaf = (tiling: Tiling): tiling is PaneLeaf => 'pane' in tiling;

/** The panes in reading order of the tree. */
export function panesOf(tiling: Tiling): string[] {
  return isLeaf(tiling) ? [tiling.pane] : tiling.parts.flatMap(panesOf);
}

/** The least length a tiling needs along an axis, CSS px. */
function leastLength(tiling: Tiling, along: Branch['along']): number {
  if (isLeaf(tiling)) return along === 'row' ? LEAST_PANE.width : LEAST_PANE.height;
  const lengths = tiling.parts.map((part) => leastLength(part, along));
  if (tiling.along !== along) return Math.max(...lengths);
  return lengths.reduce((sum, length) => sum + length, GAP_PX * (lengths.length - 1));
}

/**
 * Whole px for each part, which together are exactly the length. Parts that would be too small get what they need at
 * the cost of the others; where there isn't room for all, each gets its share of what it needs.
 */
function lengthsOf(branch: Branch, length: number): number[] {
  const { parts, shares, along } = branch;
  const available = length - GAP_PX * (parts.length - 1);
  const least = parts.map((part) => leastLength(part, along));
  const needed = least.reduce((sum, one) => sum + one, 0);
  const wanted: number[] = needed > available ? least.map((one) => (one / needed) * available) : [];
  if (wanted.length === 0) {
    const isHeld = parts.map(() => false);
    for (;;) {
      let [free, sum] = [available, 0];
      parts.forEach((_, k) => {
        if (isHeld[k]) free -= least[k]!;
        else sum += shares[k]!;
      });
      const short = parts.findIndex((_, k) => !isHeld[k] && (shares[k]! / sum) * free < least[k]! - 1e-9);
      if (short < 0) {
        parts.forEach((_, k) => wanted.push(isHeld[k] ? least[k]! : (shares[k]! / sum) * free));
        break;
      }
      isHeld[short] = true;
    }
  }
  // the ends are rounded, so that the whole is exact
  let [end, last] = [0, 0];
  return wanted.map((one) => {
    end += one;
    const edge = Math.round(end - 1e-9);
    const own = edge - last;
    last = edge;
    return own;
  });
}

function* partAreas(branch: Branch, area: Area): Generator<readonly [Tiling, Area, number]> {
  const isRow = branch.along === 'row';
  let at = isRow ? area.x : area.y;
  const lengths = lengthsOf(branch, isRow ? area.width : area.height);
  for (const [index, part] of branch.parts.entries()) {
    const own = isRow ? { ...area, x: at, width: lengths[index]! } : { ...area, y: at, height: lengths[index]! };
    yield [part, own, index];
    at += lengths[index]! + GAP_PX;
  }
}

/** Where each pane lies. They and the gaps between them fill the area exactly. @param area in whole px */
export function areasOf(tiling: Tiling, area: Area): Map<string, Area> {
  const areas = new Map<string, Area>();
  const visit = (part: Tiling, own: Area): void => {
    if (isLeaf(part)) areas.set(part.pane, own);
    else for (const [inner, its] of partAreas(part, own)) visit(inner, its);
  };
  visit(tiling, area);
  return areas;
}

/** What can be dragged between panes. */
export function dividersOf(tiling: Tiling, area: Area): Divider[] {
  const found: Divider[] = [];
  const visit = (part: Tiling, own: Area, path: readonly number[]): void => {
    if (isLeaf(part)) return;
    const isRow = part.along === 'row';
    const areas = [...partAreas(part, own)];
    for (const [inner, its, index] of areas) {
      visit(inner, its, [...path, index]);
      const next = areas[index + 1];
      if (!next) continue;
      const [start, end] = isRow ? [its.x, its.x + its.width] : [its.y, its.y + its.height];
      const nextEnd = isRow ? next[1].x + next[1].width : next[1].y + next[1].height;
      const least = Math.min(start + leastLength(inner, part.along), end);
      const most = Math.max(nextEnd - leastLength(next[0], part.along) - GAP_PX, end);
      const strip = isRow ? { ...own, x: end, width: GAP_PX } : { ...own, y: end, height: GAP_PX };
      found.push({ path, index, along: part.along, area: strip, least, most });
    }
  };
  visit(tiling, area, []);
  return found;
}

/** Changes the branch at the end of a way. */
function changed(tiling: Tiling, path: readonly number[], change: (branch: Branch) => Branch): Tiling {
  if (isLeaf(tiling)) throw new RangeError('tiling: no branch lies there');
  const [first, ...rest] = path;
  if (first === undefined) return change(tiling);
  const parts = tiling.parts.map((part, index) => (index === first ? changed(part, rest, change) : part));
  return { ...tiling, parts };
}

const shareOut = (lengths: readonly number[]): number[] => {
  const sum = lengths.reduce((total, length) => total + length, 0);
  return lengths.map((length) => length / sum);
};

/** A divider is taken elsewhere; only the two parts at it change. @param to where it begins, CSS px of the area */
export function moveDivider(tiling: Tiling, area: Area, divider: Divider, to: number): Tiling {
  const { path, index, least, most, along } = divider;
  const held = Math.round(Math.min(Math.max(to, least), most));
  const start = along === 'row' ? divider.area.x : divider.area.y;
  let own = area;
  let part = tiling;
  for (const step of path) {
    const found = isLeaf(part) ? undefined : [...partAreas(part, own)][step];
    if (!found) throw new RangeError('tiling: no branch lies there');
    [part, own] = found;
  }
  return changed(tiling, path, (branch) => {
    const lengths = lengthsOf(branch, along === 'row' ? own.width : own.height);
    lengths[index]! += held - start;
    lengths[index + 1]! -= held - start;
    return { ...branch, shares: shareOut(lengths) };
  });
}

/** The two parts at a divider become of one length; their sum stays. */
export function evenOut(tiling: Tiling, { path, index }: Pick<Divider, 'path' | 'index'>): Tiling {
  return changed(tiling, path, (branch) => {
    const half = (branch.shares[index]! + branch.shares[index + 1]!) / 2;
    return { ...branch, shares: branch.shares.map((share, k) => (k === index || k === index + 1 ? half : share)) };
  });
}

/** A pane gives half of its area to a new one, at its right or below. @throws RangeError if it isn't there */
export function splitPane(tiling: Tiling, pane: string, along: Branch['along'], added: string): Tiling {
  if (!panesOf(tiling).includes(pane)) throw new RangeError(`splitPane: there is no pane ${pane}`);
  const visit = (part: Tiling): Tiling => {
    if (isLeaf(part)) return part.pane === pane ? { along, parts: [part, { pane: added }], shares: [0.5, 0.5] } : part;
    const at = part.along === along ? part.parts.findIndex((one) => isLeaf(one) && one.pane === pane) : -1;
    if (at < 0) return { ...part, parts: part.parts.map(visit) };
    const half = part.shares[at]! / 2;
    return {
      along,
      parts: [...part.parts.slice(0, at + 1), { pane: added }, ...part.parts.slice(at + 1)],
      shares: [...part.shares.slice(0, at), half, half, ...part.shares.slice(at + 1)],
    };
  };
  return visit(tiling);
}

/**
 * A pane goes; the one before it, or the one after the first, takes its place: just the inverse of splitting.
 * @returns null if it was the only one
 */
export function closePane(tiling: Tiling, pane: string): Tiling | null {
  if (isLeaf(tiling)) return tiling.pane === pane ? null : tiling;
  const parts = tiling.parts.map((part) => closePane(part, pane));
  const gone = parts.indexOf(null);
  const shares = [...tiling.shares];
  if (gone >= 0) {
    shares[gone === 0 ? 1 : gone - 1]! += shares[gone]!;
    shares.splice(gone, 1);
  }
  return flat(
    tiling.along,
    parts.filter((part) => part !== null),
    shares,
  );
}

/** A branch without parts of its own kind, which would be two ways of writing one tiling. */
function flat(along: Branch['along'], parts: readonly Tiling[], shares: readonly number[]): Tiling {
  const [only] = parts;
  if (only && parts.length === 1) return only;
  const [allParts, allShares]: [Tiling[], number[]] = [[], []];
  parts.forEach((part, k) => {
    if (!isLeaf(part) && part.along === along) {
      allParts.push(...part.parts);
      allShares.push(...part.shares.map((share) => share * shares[k]!));
    } else {
      allParts.push(part);
      allShares.push(shares[k]!);
    }
  });
  return { along, parts: allParts, shares: allShares };
}

/** Two panes change places. */
export function swapPanes(tiling: Tiling, one: string, other: string): Tiling {
  return renamed(tiling, (pane) => (pane === one ? other : pane === other ? one : pane));
}

/** The same tiling with other names for its panes. */
export function renamed(tiling: Tiling, nameOf: (pane: string) => string): Tiling {
  if (isLeaf(tiling)) return { pane: nameOf(tiling.pane) };
  return { ...tiling, parts: tiling.parts.map((part) => renamed(part, nameOf)) };
}

/** The nearest pane on a side of another; null if none lies there. */
export function paneBeside(
  areas: ReadonlyMap<string, Area>,
  pane: string,
  side: 'left' | 'right' | 'above' | 'below',
): string | null {
  const own = areas.get(pane);
  if (!own) return null;
  const [ownX, ownY] = [own.x + own.width / 2, own.y + own.height / 2];
  let nearest: string | null = null;
  let least = Infinity;
  for (const [other, area] of areas) {
    const [dx, dy] = [area.x + area.width / 2 - ownX, area.y + area.height / 2 - ownY];
    const isThere = {
      left: area.x + area.width <= own.x,
      right: area.x >= own.x + own.width,
      above: area.y + area.height <= own.y,
      below: area.y >= own.y + own.height,
    }[side];
    const isAcross = side === 'left' || side === 'right';
    // what lies straight ahead is nearer than what lies aslant
    const distance = isAcross ? Math.abs(dx) + 2 * Math.abs(dy) : Math.abs(dy) + 2 * Math.abs(dx);
    if (other === pane || !isThere || distance >= least) continue;
    nearest = other;
    least = distance;
  }
  return nearest;
}

/** Whether something read from elsewhere is a tiling of panes that are named once each. */
export function isTiling(value: unknown, depth = 0): value is Tiling {
  if (typeof value !== 'object' || value === null || depth > MOST_PANES) return false;
  const { pane, along, parts, shares } = value as Record<string, unknown>;
  if (typeof pane === 'string') return pane.length > 0 && pane.length <= 40;
  if ((along !== 'row' && along !== 'column') || !Array.isArray(parts) || !Array.isArray(shares)) return false;
  const areShares = shares.every((share) => typeof share === 'number' && share > 0 && share <= 1);
  const sum = areShares ? (shares as number[]).reduce((total, share) => total + share, 0) : 0;
  if (parts.length < 2 || parts.length !== shares.length || Math.abs(sum - 1) > 1e-6) return false;
  if (!parts.every((part) => isTiling(part, depth + 1))) return false;
  const panes = panesOf(value as Tiling);
  return panes.length <= MOST_PANES && new Set(panes).size === panes.length;
}
