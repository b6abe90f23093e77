import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { triangulate } from './triangulate.ts';

const areaOf = (triangles: readonly number[]): number => {
  let area = 0;
  for (let i = 0; i < triangles.length; i += 6) {
    const [ax, ay, bx, by, cx, cy] = triangles.slice(i, i + 6) as [number, number, number, number, number, number];
    area += Math.abs((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) / 2;
  }
  return area;
};
/** Half the sum of the cross products of its sides: what it encloses (C. F. Gauss). */
const enclosed = (ring: readonly number[]): number => {
  let twice = 0;
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    twice += ring[i]! * ring[j + 1]! - ring[j]! * ring[i + 1]!;
  }
  return Math.abs(twice) / 2;
};
const turned = (ring: readonly number[]): number[] => ring.map((_, i) => ring[i ^ 1]!);

/** Outlines of so many corners that cross themselves nowhere, each bad for another way to fill it. */
const outlines: Readonly<Record<string, (corners: number) => number[]>> = {
  comb: (corners) => {
    const teeth = corners / 2;
    const there = Array.from({ length: teeth }, (_, i) => [i, i % 2 === 0 ? 10 : 100]);
    const back = Array.from({ length: teeth }, (_, i) => [teeth - 1 - i, (teeth - 1 - i) % 2 === 0 ? 0 : 90]);
    return [...there, ...back].flat();
  },
  'comb upright': (corners) => turned(outlines.comb!(corners)),
  star: (corners) =>
    Array.from({ length: corners }, (_, i) => {
      const [radius, angle] = [i % 2 === 0 ? 50 : 100, (2 * Math.PI * i) / corners];
      return [radius * Math.cos(angle), radius * Math.sin(angle)];
    }).flat(),
  spiral: (corners) => {
    const arm = (from: number): number[][] =>
      Array.from({ length: corners / 2 }, (_, i) => [
        (from + i / 20) * Math.cos(i / 20),
        (from + i / 20) * Math.sin(i / 20),
      ]);
    return [...arm(10), ...arm(12).reverse()].flat();
  },
};

describe('a filled area', () => {
  it.each(Object.entries(outlines))('%s: is filled exactly, with few corners and with many', (_, outline) => {
    for (const corners of [12, 1000, 60_000]) {
      const ring = outline(corners);
      const triangles = triangulate([ring], 'nonzero')!;
      // each triangle’s area is rounded a few times
      expect(Math.abs(areaOf(triangles) / enclosed(ring) - 1)).toBeLessThan(1e-9);
    }
  });

  it('has as many holes as it should, with few and with many', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.constantFrom('evenodd', 'nonzero'), (side, rule) => {
        const square = (x: number, y: number, size: number): number[] => [
          x,
          y,
          x + size,
          y,
          x + size,
          y + size,
          x,
          y + size,
        ];
        const hole = (k: number): number[] => {
          const ring = square(1 + 2 * (k % side), 1 + 2 * Math.floor(k / side), 1);
          return [6, 4, 2, 0].flatMap((i) => [ring[i]!, ring[i + 1]!]); // the other way round
        };
        const holes = Array.from({ length: side * side }, (_, k) => hole(k));
        const whole = 2 * side + 1;
        const triangles = triangulate([square(0, 0, whole), ...holes], rule)!;
        expect(areaOf(triangles)).toBeCloseTo(whole * whole - side * side, 6);
      }),
      { numRuns: 20 },
    );
  });

  it('is the same, however often it is cut, where its outline crosses itself', () => {
    // a pentagram of 4,000 corners: once round its five arms, twice round its middle
    const tips = Array.from({ length: 5 }, (_, i) => [Math.cos(0.8 * Math.PI * i), Math.sin(0.8 * Math.PI * i)]);
    const ring = (parts: number): number[] =>
      tips.flatMap(([x, y], i) => {
        const [nextX, nextY] = tips[(i + 1) % 5]!;
        return Array.from({ length: parts }, (_, k) => [
          x! + ((nextX! - x!) * k) / parts,
          y! + ((nextY! - y!) * k) / parts,
        ]).flat();
      });
    for (const rule of ['evenodd', 'nonzero'] as const) {
      const [few, many] = [triangulate([ring(1)], rule)!, triangulate([ring(800)], rule)!];
      expect(areaOf(many)).toBeCloseTo(areaOf(few), 9);
    }
  });

  it('isn’t filled where its outline crosses itself everywhere', () => {
    const tangle = Array.from({ length: 50_000 }, (_, i) => [(i * 7919) % 1000, (i * 104_729) % 1000]).flat();
    expect(triangulate([tangle], 'evenodd')).toBeNull();
  });
});
