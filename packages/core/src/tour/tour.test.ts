import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, sameCamera, worldToScreen, type Camera } from '../camera/camera.ts';
import { orientationOf } from '../camera/orbit.ts';
import { flightBetween, raisedFlight } from '../camera/flight.ts';
import { frameName, frameTimes } from './frames.ts';
import { easingCurve, easings } from './easing.ts';
import { paceOf } from './pace.ts';
import { dragEdge, evenSpeeds, usualTravelMs } from './retime.ts';
import { lookMoments, timelineOf, type TourStop } from './timeline.ts';

const viewport = { widthPx: 1000, heightPx: 600 };
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

const camera = fc
  .record({
    x: number(-1e5, 1e5),
    y: number(-1e5, 1e5),
    z: number(-1e4, 1e4),
    scale: number(-3, 6),
    bearingRad: number(-Math.PI, Math.PI),
    tiltRad: number(0, Math.PI / 2),
    isParallel: fc.boolean(),
  })
  .map(({ x, y, z, scale, bearingRad, tiltRad, isParallel }): Camera => ({
    ...planCamera({ x: 4.1e8 + x, y: 7.2e9 + y, z }, Math.exp(scale)),
    orientation: orientationOf({ bearingRad, tiltRad }),
    ...(isParallel ? {} : { projection: 'perspective' as const, fovRad: 0.9 }),
  }));
const stop: fc.Arbitrary<TourStop> = fc.record({
  camera,
  travelMs: fc.oneof(fc.constant(0), fc.integer({ min: 200, max: 9000 })),
  stayMs: fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 5000 })),
  easing: fc.constantFrom(...easings),
  driftRadPerS: fc.oneof(fc.constant(0), number(-1, 1)),
  looksChange: fc.constantFrom(...lookMoments),
});
const stops = fc.array(stop, { minLength: 1, maxLength: 6 });

/** The largest number by which two views differ, each in its own measure. */
const apart = (a: Camera, b: Camera): number =>
  Math.max(
    Math.hypot(a.target.x - b.target.x, a.target.y - b.target.y, a.target.z - b.target.z) /
      (viewport.widthPx * Math.min(a.unitsPerPx, b.unitsPerPx)),
    Math.abs(Math.log(a.unitsPerPx / b.unitsPerPx)),
    1 - Math.abs(dot(a, b)),
  );
const dot = ({ orientation: p }: Camera, { orientation: q }: Camera): number =>
  p.x * q.x + p.y * q.y + p.z * q.z + p.w * q.w;

describe('easings', () => {
  it('go from rest at 0 to rest at 1, never backwards, with the slope that they tell', () => {
    for (const easing of easings) {
      const { at, slope } = easingCurve(easing);
      expect([at(0), at(1), slope(0), slope(1)]).toEqual([0, 1, 0, 0]);
      for (let t = 0.01; t < 0.99; t += 0.01) {
        expect(slope(t)).toBeGreaterThan(0);
        expect((at(t + 1e-6) - at(t - 1e-6)) / 2e-6).toBeCloseTo(slope(t), 4);
      }
    }
  });
});

describe('a tour in time', () => {
  it('is at each stop as long as it stays there, and nowhere jumps but where it cuts', () => {
    fc.assert(
      fc.property(stops, fc.boolean(), (own, loops) => {
        const line = timelineOf(own, viewport, { loops });
        for (const [k, { arriveMs }] of line.stays.entries()) {
          if (line.loops && arriveMs >= line.durationMs) continue; // that is the start again
          const { camera: seen, nearest } = line.at(arriveMs);
          expect(nearest).toBe(line.stays.findLastIndex((stay) => stay.arriveMs <= arriveMs));
          if (nearest === k) expect(apart(seen, own[k]!.camera)).toBeLessThan(1e-9);
        }
        for (const { startMs, endMs, to } of line.legs) {
          if (endMs === startMs) continue;
          const end = endMs - 1e-3;
          expect(apart(line.at(startMs + 1e-3).camera, line.at(startMs).camera)).toBeLessThan(0.01);
          if (to !== 0) expect(apart(line.at(end).camera, own[to]!.camera)).toBeLessThan(0.01);
        }
      }),
    );
  });

  it('changes its speed without a jump, never runs backwards, and is at rest where it stays', () => {
    fc.assert(
      fc.property(stops, fc.boolean(), (own, loops) => {
        const lengths = own.map((_, k) => 1 + k);
        const { legs, durationMs } = paceOf(own, lengths, loops);
        for (const [k, leg] of legs.entries()) {
          let last = 0;
          for (let t = 0; t <= 1; t += 0.02) {
            const share = leg.shareAt(leg.startMs + t * (leg.endMs - leg.startMs));
            expect(share).toBeGreaterThanOrEqual(last - 1e-12);
            last = share;
          }
          expect(leg.shareAt(leg.endMs)).toBeCloseTo(1, 12);
          const next = legs[k + 1] ?? (loops ? legs[0] : undefined);
          const leaving = next?.speedAt(next.startMs) ?? 0;
          expect(leg.speedAt(leg.endMs)).toBeCloseTo(leaving, 12);
          if (own[leg.to]!.stayMs > 0) expect(leg.speedAt(leg.endMs)).toBeCloseTo(0, 12);
        }
        expect(durationMs).toBe(
          own.reduce(
            (sum, { travelMs, stayMs }, k) => sum + stayMs + (k > 0 || (loops && own.length > 1) ? travelMs : 0),
            0,
          ),
        );
      }),
    );
  });

  it('passes a stop without a stay at speed, and one with a stay at rest', () => {
    const at = (x: number, stayMs: number): TourStop => ({
      camera: planCamera({ x, y: 0, z: 0 }, 1),
      travelMs: 2000,
      stayMs,
      easing: 'gentle',
      driftRadPerS: 0,
      looksChange: 'midway',
    });
    const flown = timelineOf([at(0, 500), at(5000, 0), at(10_000, 500)], viewport);
    expect(flown.speedAt(2500)).toBeGreaterThan(1);
    expect(flown.speedAt(2499)).toBeCloseTo(flown.speedAt(2501), 1);
    const stayed = timelineOf([at(0, 500), at(5000, 400), at(10_000, 500)], viewport);
    expect(stayed.speedAt(2700)).toBe(0);
    expect(stayed.durationMs).toBe(500 + 2000 + 400 + 2000 + 500);
  });

  it('goes on turning at a drift stop, about its target, and leaves from where it has turned to', () => {
    const own = { travelMs: 1000, easing: 'even', looksChange: 'midway' } as const;
    const tilted = {
      ...planCamera({ x: 100, y: 200, z: 5 }, 0.1),
      orientation: orientationOf({ bearingRad: 0.3, tiltRad: 1 }),
    };
    const away = { ...tilted, target: { x: 300, y: 200, z: 5 } };
    const line = timelineOf(
      [
        { ...own, camera: tilted, stayMs: 4000, driftRadPerS: 0.5 },
        { ...own, camera: away, stayMs: 0, driftRadPerS: 0 },
      ],
      viewport,
    );
    expect(line.speedAt(2000)).toBeCloseTo(0.5, 9);
    const [middle, end] = [line.at(2000).camera, line.at(4000).camera];
    expect(middle.target).toEqual(tilted.target);
    expect(2 * Math.acos(Math.abs(dot(tilted, end)))).toBeCloseTo(0.5 * 4 * 0.85, 6);
    expect(apart(line.at(4001).camera, end)).toBeLessThan(0.01);
  });

  it('shows the looks of a stop from the moment that it tells', () => {
    const at = (x: number, looksChange: TourStop['looksChange']): TourStop => ({
      camera: planCamera({ x, y: 0, z: 0 }, 1),
      travelMs: 1000,
      stayMs: 100,
      easing: 'gentle',
      driftRadPerS: 0,
      looksChange,
    });
    for (const [moment, early, late] of [
      ['leaving', 1, 1],
      ['midway', 0, 1],
      ['arriving', 0, 0],
    ] as const) {
      const line = timelineOf([at(0, 'midway'), at(2000, moment)], viewport);
      expect([line.at(300).looksOf, line.at(900).looksOf, line.at(1100).looksOf]).toEqual([early, late, 1]);
    }
  });

  it('goes round where it loops, and ends where it doesn’t', () => {
    fc.assert(
      fc.property(stops, number(0, 1), (own, share) => {
        const round = timelineOf(own, viewport, { loops: true });
        const once = timelineOf(own, viewport);
        // whole 1024ths of a ms: adding whole laps rounds nothing, so that no time slips across a cut
        expect(Number.isInteger(round.durationMs)).toBe(true);
        const timeMs = Math.floor(share * round.durationMs * 1024) / 1024;
        if (round.loops) expect(round.at(timeMs + 3 * round.durationMs)).toEqual(round.at(timeMs));
        expect(sameCamera(once.at(once.durationMs + 1e6).camera, once.at(once.durationMs).camera)).toBe(true);
      }),
    );
  });
});

describe('the way between views', () => {
  it('rises so high, where wanted, that one end’s content is in sight at every moment', () => {
    const end = fc.record({
      x: number(-1e5, 1e5),
      y: number(-1e5, 1e5),
      scale: number(-3, 5),
      px: number(0.01, 0.99),
      py: number(0.01, 0.99),
    });
    fc.assert(
      fc.property(end, end, (a, b) => {
        const [from, to] = [a, b].map(({ x, y, scale }) => planCamera({ x, y, z: 0 }, Math.exp(scale))) as [
          Camera,
          Camera,
        ];
        const things = [
          { ...a, own: from },
          { ...b, own: to },
        ].map(({ px, py, own }) => ({
          x: own.target.x + (px - 0.5) * viewport.widthPx * own.unitsPerPx,
          y: own.target.y + (py - 0.5) * viewport.heightPx * own.unitsPerPx,
          z: 0,
        }));
        const way = raisedFlight(from, to, viewport);
        for (let share = 0; share <= 1; share += 1 / 64) {
          const seen = way.at(share);
          const isSeen = things.some((thing) => {
            const { x, y } = worldToScreen(seen, viewport, thing);
            return x > -0.5 && x < viewport.widthPx + 0.5 && y > -0.5 && y < viewport.heightPx + 0.5;
          });
          expect(isSeen).toBe(true);
        }
      }),
      { numRuns: 400 },
    );
  });

  it('passes from parallel to perspective without a jump', () => {
    const flat = planCamera({ x: 0, y: 0, z: 0 }, 1);
    const deep: Camera = { ...flat, projection: 'perspective', fovRad: 1 };
    const way = flightBetween(flat, { ...deep, unitsPerPx: 2 }, viewport);
    const angles = [0.1, 0.5, 0.9].map((share) => way.at(share).fovRad!);
    expect(angles[0]).toBeLessThan(angles[1]!);
    expect(angles[1]).toBeLessThan(angles[2]!);
    expect(way.at(0)).toBe(flat);
    expect(way.at(1).fovRad).toBe(1);
  });
});

describe('times', () => {
  const own = [1000, 2000, 3000].map((travelMs) => ({ travelMs, stayMs: 500, easing: 'gentle' as const }));

  it('are dragged by one edge, the rest moves along', () => {
    expect(dragEdge(own, 1, 'arrive', 740)[1]!.travelMs).toBe(2700);
    expect(dragEdge(own, 1, 'leave', -9000)[1]!.stayMs).toBe(0);
    expect(dragEdge(own, 1, 'arrive', -9000)[1]!.travelMs).toBe(200);
    expect(dragEdge(own, 1, 'arrive', 740)[2]).toBe(own[2]);
  });

  it('are shared out so that all ways are equally quick', () => {
    const after = evenSpeeds(own, [9, 4, 1], false);
    expect(after.map(({ travelMs }) => travelMs)).toEqual([1000, 4000, 1000]);
    const lengths = [2, 4, 6];
    expect(evenSpeeds(own, lengths, true).map(({ travelMs }, k) => travelMs / lengths[k]!)).toEqual([500, 500, 500]);
  });

  it('of a way that nobody has timed grow with its length', () => {
    expect(usualTravelMs(0)).toBe(1000);
    expect(usualTravelMs(2)).toBe(2800);
    expect(usualTravelMs(99)).toBe(12_000);
  });

  it('of frames go from the start to the end, once round where the tour loops', () => {
    expect(frameTimes(1000, 25, false)).toHaveLength(26);
    expect(frameTimes(1000, 25, true)).toHaveLength(25);
    expect(frameTimes(0, 25, false)).toEqual([0]);
    expect(frameTimes(990, 10, false).at(-1)).toBe(900);
    expect([frameName(0, 26), frameName(25, 26), frameName(9, 12_345)]).toEqual([
      'frame-0001.png',
      'frame-0026.png',
      'frame-00010.png',
    ]);
  });
});
