type Ring = readonly number[];

/** A part of an outline that lies on one side of a cut: x, y pairs, its first and last point on the cut. */
interface Chain {
  readonly points: number[];
}

/**
 * Cuts an area along a line across an axis. What runs from side to side is closed along the cut so that each part winds
 * about every point in it as often as the whole did: any way of closing does, since what lies on the cut winds about
 * nothing; ends are joined in their order along the cut, which overlaps least.
 * @param rings closed polylines, x, y pairs, without the repeated first point
 * @param axis 0 cuts across x
 * @returns what lies below and above
 */
export function halve(rings: readonly Ring[], axis: 0 | 1, at: number): readonly [Ring[], Ring[]] {
  const whole: [Ring[], Ring[]] = [[], []];
  const chains: [Chain[], Chain[]] = [[], []];
  for (const ring of rings) {
    const first = firstCrossing(ring, axis, at);
    if (first < 0) whole[ring[axis]! >= at ? 1 : 0].push(ring);
    else cut(ring, first, axis, at, chains);
  }
  for (const side of [0, 1] as const) whole[side].push(...closed(chains[side], axis === 0 ? 1 : 0));
  return whole;
}

/** The first corner whose edge crosses the cut; -1 if none does. */
function firstCrossing(ring: Ring, axis: 0 | 1, at: number): number {
  for (let i = 0; i < ring.length; i += 2)
    if (ring[i + axis]! >= at !== ring[((i + 2) % ring.length) + axis]! >= at) return i;
  return -1;
}

function cut(ring: Ring, first: number, axis: 0 | 1, at: number, chains: [Chain[], Chain[]]): void {
  let points: number[] = [];
  for (let k = 0; k <= ring.length; k += 2) {
    const i = (first + k) % ring.length;
    const j = (i + 2) % ring.length;
    const isAbove = ring[i + axis]! >= at;
    if (k > 0) points.push(ring[i]!, ring[i + 1]!);
    if (isAbove === ring[j + axis]! >= at) continue;
    const share = (at - ring[i + axis]!) / (ring[j + axis]! - ring[i + axis]!);
    const crossing = [ring[i]! + (ring[j]! - ring[i]!) * share, ring[i + 1]! + (ring[j + 1]! - ring[i + 1]!) * share];
    crossing[axis] = at; // exactly, so that all of the cut lies on one line
    points.push(...crossing);
    if (k > 0) chains[isAbove ? 1 : 0].push({ points });
    points = crossing;
  }
}

/** Rings made of chains. @param along the axis that the cut runs along */
function closed(chains: readonly Chain[], along: 0 | 1): Ring[] {
  const endOf = ({ points }: Chain): number => points[points.length - 2 + along]!;
  const byEnd = chains.map((_, index) => index).sort((a, b) => endOf(chains[a]!) - endOf(chains[b]!));
  const byStart = chains.map((_, index) => index).sort((a, b) => chains[a]!.points[along]! - chains[b]!.points[along]!);
  const next = new Int32Array(chains.length);
  byEnd.forEach((chain, order) => (next[chain] = byStart[order]!));
  const isTaken = new Uint8Array(chains.length);
  const rings: Ring[] = [];
  chains.forEach((_, first) => {
    const ring: number[] = [];
    for (let at = first; !isTaken[at]; at = next[at]!) {
      isTaken[at] = 1;
      for (const value of chains[at]!.points) ring.push(value);
    }
    if (ring.length >= 6) rings.push(ring);
  });
  return rings;
}
