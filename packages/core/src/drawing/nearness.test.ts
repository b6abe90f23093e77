import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nearestPoint } from '../pick/shape-tests.ts';
import { nearnessOf } from './nearness.ts';
import { PathBuilder, type Path } from './path.ts';

const place = fc.record({
  x: fc.double({ min: -1e4, max: 1e4, noNaN: true }),
  y: fc.double({ min: -1e4, max: 1e4, noNaN: true }),
});
type Place = { readonly x: number; readonly y: number };
const steps = fc.array(
  fc.record({
    kind: fc.constantFrom('move', 'line', 'quadratic', 'cubic', 'arc', 'close'),
    a: place,
    b: place,
    c: place,
  }),
  { minLength: 1, maxLength: 8 },
);

/** A path of such steps, moved far away, where doubles are coarse. */
function pathOf(list: readonly { kind: string; a: Place; b: Place; c: Place }[], away: number): Path {
  const path = new PathBuilder().moveTo(away, away);
  const at = (value: number): number => away + value;
  for (const { kind, a, b, c } of list) {
    if (kind === 'move') path.moveTo(at(a.x), at(a.y));
    else if (kind === 'line') path.lineTo(at(a.x), at(a.y));
    else if (kind === 'quadratic') path.quadraticTo(at(a.x), at(a.y), at(b.x), at(b.y));
    else if (kind === 'cubic') path.cubicTo(at(a.x), at(a.y), at(b.x), at(b.y), at(c.x), at(c.y));
    else if (kind === 'close') path.close();
    else {
      const [cx, cy, radius, sweepRad] = [at(a.x), at(a.y), Math.abs(b.x) + 1, (b.y / 1e4) * 2 * Math.PI];
      path.moveTo(cx + radius, cy);
      const arc = { cx, cy, ux: radius, uy: 0, vx: 0, vy: radius, startRad: 0, sweepRad };
      path.arcTo(arc, cx + radius * Math.cos(sweepRad), cy + radius * Math.sin(sweepRad));
    }
  }
  return path;
}

describe('how near a path comes', () => {
  it('is never overestimated, and beyond the radius only if the path is', () => {
    fc.assert(
      fc.property(
        steps,
        place,
        fc.double({ min: 1, max: 1e4, noNaN: true }),
        fc.constantFrom(0, 412_600_000),
        (list, about, radius, away) => {
          const path = pathOf(list, away);
          const from = { x: away + about.x, y: away + about.y };
          const nearest = nearestPoint(path, from, { chordError: (size) => 1e-7 * size });
          const told = nearnessOf(path, from, radius);
          // chords lie within the curve's control points, but for the rounding of coordinates far away
          const exact = (nearest?.distance ?? Infinity) + 1e-3;
          if (told === Infinity) expect(exact).toBeGreaterThan(radius);
          else expect(told).toBeLessThanOrEqual(exact);
        },
      ),
    );
  });

  it('is exact, but for rounding, where all lines are straight', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 8 }), place, (corners, from) => {
        const path = new PathBuilder().moveTo(corners[0]!.x, corners[0]!.y);
        for (const { x, y } of corners.slice(1)) path.lineTo(x, y);
        const { distance } = nearestPoint(path, from)!;
        // what doubles of ten thousand leave of a distance, twice
        expect(Math.abs(nearnessOf(path, from, Infinity) - distance)).toBeLessThan(1e-8 * distance + 1e-7);
      }),
    );
  });
});
