/** Rings of x, y pairs, not closed. */

/** By the shoelace formula; positive anticlockwise. */
export function ringArea(ring: readonly number[]): number {
  let twice = 0;
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    twice += ring[i]! * ring[j + 1]! - ring[j]! * ring[i + 1]!;
  }
  return twice / 2;
}

/** By how often the ring winds around the place (D. Sunday, "Inclusion of a point in a polygon", 2001). */
export function isInRing(ring: readonly number[], x: number, y: number): boolean {
  let winding = 0;
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    const [x0, y0, x1, y1] = [ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!];
    const side = (x1 - x0) * (y - y0) - (x - x0) * (y1 - y0);
    if (y0 <= y && y1 > y && side > 0) winding++;
    else if (y0 > y && y1 <= y && side < 0) winding--;
  }
  return winding !== 0;
}

/** Without ways there and back, and without places that repeat. */
export function withoutSpikes(ring: readonly number[], tolerance: number): number[] {
  const kept: number[] = [];
  const isSame = (a: number, x: number, y: number): boolean =>
    Math.abs(kept[a]! - x) <= 2 * tolerance && Math.abs(kept[a + 1]! - y) <= 2 * tolerance;
  const add = (x: number, y: number): void => {
    if (kept.length >= 2 && isSame(kept.length - 2, x, y)) return;
    if (kept.length >= 4 && isSame(kept.length - 4, x, y)) {
      kept.length -= 2;
      return;
    }
    kept.push(x, y);
  };
  for (let i = 0; i < ring.length; i += 2) add(ring[i]!, ring[i + 1]!);
  // the seam is a place like any other
  let first = 0;
  for (let trimmed = true; trimmed && kept.length - first >= 6;) {
    trimmed = false;
    if (isSame(first, kept.at(-2)!, kept.at(-1)!)) {
      kept.length -= 2;
      trimmed = true;
    } else if (isSame(first + 2, kept.at(-2)!, kept.at(-1)!)) {
      first += 2;
      trimmed = true;
    } else if (isSame(first, kept.at(-4)!, kept.at(-3)!)) {
      kept.length -= 2;
      trimmed = true;
    }
  }
  return first === 0 ? kept : kept.slice(first);
}

/**
 * Lines that fill an area at an angle, by the even-odd rule: x0, y0, x1, y1 each.
 * @param spacing between lines, the rings' unit
 */
export function hatchLines(rings: readonly (readonly number[])[], angleRad: number, spacing: number): number[] {
  const [cos, sin] = [Math.cos(angleRad), Math.sin(angleRad)];
  // turned so that the lines lie level
  const turned = rings.map((ring) =>
    ring.map((_, i) => (i % 2 === 0 ? ring[i]! * cos + ring[i + 1]! * sin : ring[i]! * cos - ring[i - 1]! * sin)),
  );
  let [low, high] = [Infinity, -Infinity];
  for (const ring of turned)
    for (let i = 1; i < ring.length; i += 2) {
      low = Math.min(low, ring[i]!);
      high = Math.max(high, ring[i]!);
    }
  const lines: number[] = [];
  for (let k = Math.ceil(low / spacing); k * spacing <= high; k++) {
    const y = k * spacing;
    const met: number[] = [];
    for (const ring of turned)
      for (let i = 0; i < ring.length; i += 2) {
        const j = (i + 2) % ring.length;
        const [y0, y1] = [ring[i + 1]!, ring[j + 1]!];
        if (y0 <= y === y1 <= y) continue;
        met.push(ring[i]! + ((ring[j]! - ring[i]!) * (y - y0)) / (y1 - y0));
      }
    met.sort((a, b) => a - b);
    for (let i = 0; i + 1 < met.length; i += 2) {
      const [x0, x1] = [met[i]!, met[i + 1]!];
      lines.push(x0 * cos - y * sin, x0 * sin + y * cos, x1 * cos - y * sin, x1 * sin + y * cos);
    }
  }
  return lines;
}
