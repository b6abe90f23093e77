import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sheetOf } from '../spatial/sheet.ts';
import { planCamera, screenToWorld, worldToScreen, type Camera, type ScreenPoint } from './camera.ts';
import { flightBetween } from './flight.ts';
import { glideFrom } from './glide.ts';
import { lensCamera } from './lens.ts';
import { scaleBarFor, formatLength } from './scale-bar.ts';
import { atScale, mmPerPxOfScreen, scaleDenominator, standardScales } from './scale.ts';
import { bearingOf, formatBearing, handTurn, levelLine, twistAbout, twistBy, twistTo } from './twist.ts';
import { zoomAbout } from './zoom.ts';

const viewport = { widthPx: 1000, heightPx: 700 };
const limits = { minUnitsPerPx: 1e-6, maxUnitsPerPx: 1e6 };
const double = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const angles = double(-Math.PI, Math.PI);
const cameras: fc.Arbitrary<Camera> = fc
  .tuple(double(4.1e8, 4.2e8), double(7.19e9, 7.21e9), double(-1, 2), angles)
  .map(([x, y, power, bearing]) => twistTo(planCamera({ x, y, z: 0 }, 10 ** power), bearing));
const places: fc.Arbitrary<ScreenPoint> = fc.record({ x: double(0, 1000), y: double(0, 700) });
const apart = (a: ScreenPoint, b: ScreenPoint): number => Math.hypot(a.x - b.x, a.y - b.y);
const turnApart = (a: number, b: number): number => Math.abs(Math.atan2(Math.sin(a - b), Math.cos(a - b)));

describe('twist', () => {
  it('keeps the point that it turns about, and the scale', () => {
    fc.assert(
      fc.property(cameras, places, angles, (camera, at, angle) => {
        const held = screenToWorld(camera, viewport, at);
        const turned = twistAbout(camera, viewport, at, angle);
        expect(apart(worldToScreen(turned, viewport, held), at)).toBeLessThan(1e-2);
        expect(turned.unitsPerPx).toBe(camera.unitsPerPx);
      }),
    );
  });

  it('undoes itself, and two turns are one', () => {
    fc.assert(
      fc.property(cameras, angles, angles, (camera, a, b) => {
        expect(turnApart(bearingOf(twistBy(twistBy(camera, a), -a)), bearingOf(camera))).toBeLessThan(1e-9);
        expect(turnApart(bearingOf(twistBy(twistBy(camera, a), b)), bearingOf(twistBy(camera, a + b)))).toBeLessThan(
          1e-9,
        );
      }),
    );
  });

  it('turns what is seen counterclockwise', () => {
    const camera = planCamera({ x: 0, y: 0, z: 0 }, 1);
    const east = worldToScreen(twistBy(camera, Math.PI / 2), viewport, { x: 100, y: 0, z: 0 });
    expect(east.x).toBeCloseTo(500, 9);
    expect(east.y).toBeCloseTo(250, 9); // east now lies at the top
    expect(bearingOf(twistBy(camera, Math.PI / 2))).toBeCloseTo(Math.PI / 2, 12);
  });

  it('goes to any bearing and tells it; quarters are exact', () => {
    fc.assert(
      fc.property(cameras, angles, (camera, bearing) => {
        expect(turnApart(bearingOf(twistTo(camera, bearing)), bearing)).toBeLessThan(1e-9);
      }),
    );
    const camera = planCamera({ x: 5, y: 6, z: 0 }, 1);
    for (const quarter of [0, 1, 2, 3, 4, -1]) {
      const { orientation } = twistTo(camera, (quarter * Math.PI) / 2);
      expect([0, Math.SQRT1_2, 1]).toContain(Math.abs(orientation.z));
    }
    expect(bearingOf(twistTo(twistTo(camera, 1), 0))).toBe(0);
    expect(formatBearing((30 * Math.PI) / 180)).toBe('030°');
    expect(formatBearing((7.25 * Math.PI) / 180)).toBe('007.3°');
    expect(formatBearing(2 * Math.PI - 1e-9)).toBe('000°');
  });

  it('lays a line level by the smaller turn', () => {
    fc.assert(
      fc.property(cameras, places, places, (camera, a, b) => {
        fc.pre(apart(a, b) > 10);
        const [from, to] = [a, b].map((at) => screenToWorld(camera, viewport, at)) as [never, never];
        const level = levelLine(camera, from, to);
        const [p, q] = [from, to].map((point) => worldToScreen(level, viewport, point)) as [ScreenPoint, ScreenPoint];
        expect(Math.abs(p.y - q.y)).toBeLessThan(1e-2);
        expect(turnApart(bearingOf(level), bearingOf(camera))).toBeLessThan(Math.PI / 2 + 1e-9);
      }),
    );
  });

  it('follows a hand about the middle', () => {
    expect(handTurn(viewport, { x: 700, y: 350 }, { x: 500, y: 150 })).toBeCloseTo(Math.PI / 2, 12);
    expect(handTurn(viewport, { x: 500, y: 150 }, { x: 700, y: 350 })).toBeCloseTo(-Math.PI / 2, 12);
  });
});

describe('a flight that turns', () => {
  it('meets both ends exactly and turns evenly the shorter way', () => {
    fc.assert(
      fc.property(cameras, angles, (from, bearing) => {
        const to = twistTo({ ...from, unitsPerPx: from.unitsPerPx * 2 }, bearing);
        const flight = flightBetween(from, to, viewport);
        expect(flight.at(0)).toBe(from);
        expect(flight.at(1)).toBe(to);
        const whole = turnApart(bearingOf(from), bearingOf(to));
        fc.pre(whole > 1e-3 && whole < 3.1);
        const half = flight.at(0.5);
        expect(turnApart(bearingOf(from), bearingOf(half))).toBeCloseTo(whole / 2, 6);
      }),
    );
  });
});

describe('a glide', () => {
  it('begins with the speed of the hand and slows down evenly to a stand', () => {
    fc.assert(
      fc.property(cameras, double(-3, 3), double(-3, 3), (camera, x, y) => {
        fc.pre(Math.hypot(x, y) > 0.3);
        const glide = glideFrom(camera, { x, y });
        const placeAt = (ms: number): ScreenPoint =>
          worldToScreen(glide.at(ms / glide.durationMs), viewport, camera.target);
        const first = placeAt(1);
        expect(first.x - 500).toBeCloseTo(x, 1);
        expect(first.y - 350).toBeCloseTo(y, 1);
        const steps = Array.from({ length: 11 }, (_, i) => placeAt((i * glide.durationMs) / 10));
        const speeds = steps.slice(1).map((place, i) => apart(place, steps[i]!));
        for (let i = 1; i < speeds.length; i++) expect(speeds[i]).toBeLessThan(speeds[i - 1]!);
        expect(glide.at(0)).toBe(camera);
        expect(glide.durationMs).toBeLessThan(1500);
      }),
    );
  });
});

describe('the lens', () => {
  it('shows the point under the cursor in its middle, under any twist, and a dive keeps it there', () => {
    fc.assert(
      fc.property(cameras, places, double(1.5, 64), (camera, at, ratio) => {
        const lens = lensCamera(camera, viewport, at, ratio, limits);
        const point = screenToWorld(camera, viewport, at);
        const middle = worldToScreen(lens, { widthPx: 260, heightPx: 260 }, point);
        expect(apart(middle, { x: 130, y: 130 })).toBeLessThan(1e-2);
        const dived = zoomAbout(camera, viewport, at, ratio, limits);
        expect(dived.unitsPerPx).toBeCloseTo(lens.unitsPerPx, 9);
        expect(bearingOf(lens)).toBe(bearingOf(camera));
      }),
    );
  });
});

describe('exact scales', () => {
  it('put one millimetre of the screen for N of the drawing', () => {
    const camera = planCamera({ x: 0, y: 0, z: 0 }, 3);
    for (const scale of standardScales)
      for (const mmPerPx of [25.4 / 96, 0.233])
        expect(scaleDenominator(atScale(camera, scale, limits, mmPerPx), mmPerPx)).toBeCloseTo(scale, 9);
  });

  it('know the screen by its size', () => {
    expect(mmPerPxOfScreen(27, 2560, 1440)).toBeCloseTo(0.2335, 4);
  });
});

describe('the scale bar', () => {
  it('has the longest round length that fits', () => {
    fc.assert(
      fc.property(double(-6, 6), (power) => {
        const unitsPerPx = 10 ** power;
        const { length, widthPx } = scaleBarFor(unitsPerPx, 120);
        expect(widthPx).toBeLessThanOrEqual(120 * (1 + 1e-9));
        expect(widthPx).toBeGreaterThan(120 / 2.5 - 1e-6);
        expect(widthPx * unitsPerPx).toBeCloseTo(length, 9);
        const digit = length / 10 ** Math.floor(Math.log10(length) + 1e-9);
        expect([1, 2, 5].some((round) => Math.abs(digit - round) < 1e-6)).toBe(true);
      }),
    );
    expect([formatLength(0.5), formatLength(20), formatLength(50_000), formatLength(2e6)]).toEqual([
      '0.5 mm',
      '20 mm',
      '50 m',
      '2 km',
    ]);
  });
});

describe('the sheet of a drawing', () => {
  const corners = (angle: number): number[] =>
    [
      [0, 0],
      [841, 0],
      [841, 594],
      [0, 594],
    ].flatMap(([x, y]) => [
      4e8 + x! * Math.cos(angle) - y! * Math.sin(angle),
      7e9 + x! * Math.sin(angle) + y! * Math.cos(angle),
      0,
    ]);

  it('is the rectangle on the layer that is named after it, turned or not', () => {
    for (const angle of [0, 0.3]) {
      const support = corners(angle);
      const sheet = sheetOf([
        { name: 'Pipes', support: [0, 0, 0, 9, 9, 0] },
        { name: 'Sheet frame', support },
      ])!;
      for (let i = 0; i < 12; i += 3) {
        const isCorner = [0, 3, 6, 9].some(
          (k) => Math.hypot(sheet[i]! - support[k]!, sheet[i + 1]! - support[k + 1]!) < 1e-3,
        );
        expect(isCorner).toBe(true);
      }
    }
  });

  it('is none where the layer is no rectangle or has another name', () => {
    expect(sheetOf([{ name: 'Walls', support: corners(0) }])).toBeNull();
    expect(sheetOf([{ name: 'Sheet', support: [0, 0, 0, 10, 0, 0, 5, 8, 0] }])).toBeNull();
    expect(sheetOf([])).toBeNull();
  });
});
