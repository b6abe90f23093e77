import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ClipShape } from './clip-shape.ts';
import { intersectAreas } from './intersect-areas.ts';
import type { FillRule } from './model.ts';

const corner = fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 }));
const ring = fc.array(corner, { minLength: 3, maxLength: 12 }).map((corners) => corners.flat());
const rule = fc.constantFrom<FillRule>('nonzero', 'evenodd');
/** Beside all edges between whole numbers. */
const [betweenX, betweenY] = [0.31370913, 0.72190427].map((by) =>
  fc.integer({ min: -50, max: 49 }).map((value) => value + by),
) as [fc.Arbitrary<number>, fc.Arbitrary<number>];

/** By the sum of the angles under which the edges are seen. */
function windingOf(rings: readonly (readonly number[])[], x: number, y: number): number {
  let sum = 0;
  for (const own of rings)
    for (let i = 0; i < own.length; i += 2) {
      const j = (i + 2) % own.length;
      const [ax, ay, bx, by] = [own[i]! - x, own[i + 1]! - y, own[j]! - x, own[j + 1]! - y];
      sum += Math.atan2(ax * by - ay * bx, ax * bx + ay * by);
    }
  return Math.round(sum / (2 * Math.PI));
}
const isIn = (rings: readonly (readonly number[])[], own: FillRule, x: number, y: number): boolean => {
  const winding = windingOf(rings, x, y);
  return own === 'evenodd' ? winding % 2 !== 0 : winding !== 0;
};

describe('a shape that cuts', () => {
  it('holds the places that its winding says', () => {
    fc.assert(
      fc.property(fc.array(ring, { minLength: 1, maxLength: 3 }), rule, betweenX, betweenY, (rings, own, x, y) => {
        expect(new ClipShape(rings, own).isInside(x, y)).toBe(isIn(rings, own, x, y));
      }),
    );
  });

  it('has the parts of a line that lie inside, and no others', () => {
    const share = fc.double({ min: 0.001, max: 0.999, noNaN: true });
    fc.assert(
      fc.property(ring, rule, betweenX, betweenY, betweenX, betweenY, share, (own, fill, x0, y0, x1, y1, t) => {
        const spans = new ClipShape([own], fill).spans(x0, y0, x1, y1);
        const isOnBorder = spans.some((cut) => Math.abs(cut - t) < 1e-9);
        fc.pre(!isOnBorder);
        let isInside = false;
        for (let i = 0; i < spans.length; i += 2) isInside ||= t > spans[i]! && t < spans[i + 1]!;
        expect(isInside).toBe(isIn([own], fill, x0 + (x1 - x0) * t, y0 + (y1 - y0) * t));
        expect([...spans].sort((a, b) => a - b)).toEqual(spans);
      }),
    );
  });

  it('tells how a box lies to it', () => {
    fc.assert(
      fc.property(ring, rule, betweenX, betweenY, fc.nat(20), betweenX, betweenY, (own, fill, x, y, size, px, py) => {
        const shape = new ClipShape([own], fill);
        const box = { minX: x, minY: y, maxX: x + size, maxY: y + size };
        const side = shape.sideOf(box);
        const inBox = [Math.min(Math.max(px, box.minX), box.maxX), Math.min(Math.max(py, box.minY), box.maxY)] as const;
        if (side !== 'across') expect(isIn([own], fill, ...inBox)).toBe(side === 'inside');
      }),
    );
    const square = new ClipShape([[0, 0, 10, 0, 10, 10, 0, 10]], 'nonzero');
    expect(square.sideOf({ minX: 1, minY: 1, maxX: 9, maxY: 9 })).toBe('inside');
    expect(square.sideOf({ minX: 11, minY: 1, maxX: 19, maxY: 9 })).toBe('outside');
    expect(square.sideOf({ minX: -1, minY: 4, maxX: 11, maxY: 6 })).toBe('across');
    expect(square.sideOf({ minX: -1, minY: -1, maxX: 11, maxY: 11 })).toBe('across');
  });

  it('takes nothing of a line beside it', () => {
    const square = new ClipShape([[0, 0, 10, 0, 10, 10, 0, 10]], 'nonzero');
    expect(square.spans(20, 0, 30, 5)).toEqual([]);
    expect(square.spans(-5, 5, 15, 5)).toEqual([0.25, 0.75]);
    expect(square.corners).toBe(4);
  });
});

describe('what lies in two areas', () => {
  it('lies in each of them', () => {
    fc.assert(
      fc.property(ring, rule, ring, rule, betweenX, betweenY, (a, first, b, second, x, y) => {
        const both = intersectAreas([a], first, [b], second);
        expect(both).not.toBeNull();
        expect(isIn(both!, 'nonzero', x, y)).toBe(isIn([a], first, x, y) && isIn([b], second, x, y));
      }),
    );
  });

  it('keeps large coordinates', () => {
    const [e, n] = [412_600_000, 7_208_400_000];
    const square = (x: number, size: number): number[] => [x, n, x + size, n, x + size, n + size, x, n + size];
    const [both] = intersectAreas([square(e, 100)], 'nonzero', [square(e + 60, 100)], 'nonzero')!;
    expect([Math.min(...both!), Math.max(...both!)]).toEqual([e + 60, n + 100]);
  });

  it('is null for too many corners', () => {
    const many = Array.from({ length: 10_000 }, (_, i) => i % 97);
    expect(intersectAreas([many], 'nonzero', [[0, 0, 1, 0, 1, 1]], 'nonzero')).toBeNull();
  });
});
