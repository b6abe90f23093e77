/** x, y after one another; not closed. */
type Ring = readonly number[];

/** More rings than this are polygons of their own. */
const MOST_NESTED = 400;

function area(ring: Ring): number {
  let twice = 0;
  const [x0, y0] = [ring[0]!, ring[1]!];
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    // about a corner, so that large coordinates lose nothing
    twice += (ring[i]! - x0) * (ring[j + 1]! - y0) - (ring[j]! - x0) * (ring[i + 1]! - y0);
  }
  return twice / 2;
}

function holds(ring: Ring, x: number, y: number): boolean {
  let isIn = false;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [xi, yi, xj, yj] = [ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!];
    if (yi > y !== yj > y && x - xi < ((xj - xi) * (y - yi)) / (yj - yi)) isIn = !isIn;
  }
  return isIn;
}

const reversed = (ring: Ring): number[] => {
  const back: number[] = [];
  for (let i = ring.length - 2; i >= 0; i -= 2) back.push(ring[i]!, ring[i + 1]!);
  return back;
};

/**
 * Rings that are filled by the even-odd rule as polygons, each with its holes, outer ones anticlockwise and holes
 * clockwise, as RFC 7946, 3.1.6 has them.
 */
export function nestRings(rings: readonly Ring[]): number[][][] {
  const sound = rings.filter((ring) => ring.length >= 6);
  const outward = (ring: Ring, isHole: boolean): number[] => (area(ring) < 0 === isHole ? [...ring] : reversed(ring));
  if (sound.length > MOST_NESTED) return sound.map((ring) => [outward(ring, false)]);
  const parents = sound.map((ring, k) =>
    sound.flatMap((other, j) => (j !== k && holds(other, ring[0]!, ring[1]!) ? [j] : [])),
  );
  const polygons = new Map<number, number[][]>();
  sound.forEach((ring, k) => {
    if (parents[k]!.length % 2 === 0) polygons.set(k, [outward(ring, false)]);
  });
  sound.forEach((ring, k) => {
    if (parents[k]!.length % 2 === 0) return;
    // the outer ring that holds it most closely has one less around it
    const owner = parents[k]!.find((j) => parents[j]!.length === parents[k]!.length - 1);
    const polygon = owner === undefined ? undefined : polygons.get(owner);
    if (polygon) polygon.push(outward(ring, true));
    else polygons.set(k, [outward(ring, false)]);
  });
  return [...polygons.values()];
}
