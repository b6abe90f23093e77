import { within } from '../drawing/flatten.ts';
import { ringsOf } from '../drawing/rings.ts';
import { triangulate } from '../drawing/triangulate.ts';
import { clipRing, type Box2 } from '../geometry/clip.ts';
import { Growable } from '../geometry/growable.ts';
import type { DetailItem } from './detail.ts';
import type { StyleRun } from './tile-format.ts';

/** Areas as tiles hold them, made of a detail for one scale. */
export interface RefinedFills {
  readonly positions: Float32Array<ArrayBuffer>;
  /** x, y a vertex: what single precision lost. */
  readonly low: Float32Array<ArrayBuffer>;
  readonly styles: Uint16Array<ArrayBuffer>;
  /** Three vertices a triangle. */
  readonly triangles: Uint32Array<ArrayBuffer>;
  readonly triangleRuns: readonly StyleRun[];
  /** Pairs of first vertex and object, rising. */
  readonly objects: Uint32Array<ArrayBuffer>;
}

/**
 * Turns a detail into areas that keep to its curves.
 * @param items as they were decoded; their order is kept
 * @param chordError drawing units
 * @param region what is near the view, relative to the tile's origin; of areas that reach beyond it only the part in it
 *   is made
 */
export function refineFills(items: readonly DetailItem[], chordError: number, region?: Box2): RefinedFills {
  const positions = new Growable(Float32Array);
  const low = new Growable(Float32Array);
  const styles = new Growable(Uint16Array);
  const objects = new Growable(Uint32Array);
  const triangleRuns: { style: number; start: number; count: number }[] = [];
  for (const { style, object, fillRule, path } of items) {
    const rings = ringsOf(path, within(chordError, region));
    const xy = triangulate(region ? rings.map((ring) => clipRing(ring, region)) : rings, fillRule);
    if (!xy || xy.length === 0) continue;
    if (triangleRuns.at(-1)?.style !== style) triangleRuns.push({ style, start: styles.length, count: 0 });
    objects.append([styles.length, object]);
    for (let i = 0; i < xy.length; i += 2) {
      const [x, y] = [xy[i]!, xy[i + 1]!];
      positions.append([x, y, 0]);
      low.append([x - Math.fround(x), y - Math.fround(y)]);
      styles.push(style);
    }
    triangleRuns.at(-1)!.count += xy.length / 2;
  }
  return {
    positions: positions.view().slice(),
    low: low.view().slice(),
    styles: styles.view().slice(),
    triangles: Uint32Array.from({ length: styles.length }, (_, vertex) => vertex),
    triangleRuns,
    objects: objects.view().slice(),
  };
}
