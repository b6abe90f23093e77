import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, worldToScreen } from '../camera/camera.ts';
import { standardDirections } from '../camera/directions.ts';
import { fitSupport } from '../camera/fit-support.ts';
import { frameCorners } from '../camera/frame.ts';
import { orientationOf } from '../camera/orbit.ts';
import { seededRandom } from '../geometry/random.ts';
import { drills, drillsFor } from './drills.ts';
import { isFramed, type BegunDrill, type Drill, type DrillScene, type DrillState } from './drill.ts';
import { atPlace } from './places.ts';

const viewport = { widthPx: 900, heightPx: 600 };
const extents = {
  min: { x: 412_300_000, y: 7_208_200_000, z: 0 },
  max: { x: 412_900_000, y: 7_208_600_000, z: 20_000 },
};
const limits = { minUnitsPerPx: 1e-3, maxUnitsPerPx: 1e7 };
const corners = [extents.min, extents.max].flatMap(({ x, y }) => [x, y, 0]);
const whole = fitSupport(planCamera({ x: 0, y: 0, z: 0 }, 1), viewport, corners, limits);
const scene = (seed: number): DrillScene => ({
  extents,
  whole,
  viewport,
  random: seededRandom(seed),
  tag: { text: 'KS-VA-0405', at: { x: 412_500_000, y: 7_208_300_000, z: 0 } },
  line: [
    { x: 412_310_000, y: 7_208_210_000, z: 0 },
    { x: 412_500_000, y: 7_208_210_000, z: 0 },
    { x: 412_500_000, y: 7_208_590_000, z: 0 },
  ],
});
const state = (change: Partial<DrillState> = {}): DrillState => ({
  camera: whole,
  viewport,
  scaleDenominator: 2700,
  panes: 1,
  areTwoAlike: false,
  points: [],
  ...change,
});
const named = (id: string): Drill => drills.find((drill) => drill.id === id)!;
const begun = (id: string, seed = 7): BegunDrill => named(id).begin(scene(seed))!;

describe('drills', () => {
  it('have names, goals and tips of their own, and none is done as it begins', () => {
    expect(new Set(drills.map(({ id }) => id)).size).toBe(drills.length);
    fc.assert(
      fc.property(fc.constantFrom(...drills), fc.integer({ min: 1, max: 1e6 }), (drill, seed) => {
        const own = drill.begin(scene(seed))!;
        expect(own.goal).toMatch(/^[A-Z].*\.$/);
        expect(drill.tip).toMatch(/\.$/);
        expect(own.steps).toBeGreaterThan(0);
        expect(own.reached(state({ camera: own.camera }), 0)).toBe(0);
      }),
    );
    expect(drillsFor('flat').map(({ id }) => id)).not.toContain('look-at-side');
    expect(drillsFor('solid').map(({ id }) => id)).not.toContain('straighten');
  });

  it('a marked place is framed by its two corners, wherever it lies', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const own = begun('frame-detail', seed);
        const [place] = own.marked;
        const [a, b] = [place!.min, place!.max].map((corner) => worldToScreen(whole, viewport, corner));
        const camera = frameCorners(whole, viewport, a!, b!, limits);
        expect(own.reached(state({ camera }), 0)).toBe(1);
      }),
    );
  });

  it('three places count only in their order', () => {
    const own = begun('three-places');
    const at = (k: number): DrillState => state({ camera: atPlace({ whole, viewport }, own.marked[k]!) });
    expect(own.reached(at(1), 0)).toBe(0);
    expect(own.reached(at(0), 0)).toBe(1);
    expect(own.reached(at(1), 1)).toBe(2);
    expect(own.reached(at(2), 2)).toBe(3);
    expect(isFramed(own.marked[0]!, state())).toBe(false);
  });

  it('a line is followed from end to end', () => {
    const own = begun('follow-line');
    const at = (k: number): DrillState => state({ camera: atPlace({ whole, viewport }, own.marked[k]!) });
    expect([0, 1, 2].map((k) => own.reached(at(k), k))).toEqual([1, 2, 3]);
    expect(own.reached(at(2), 0)).toBe(0);
    // the squares lie on the line: 12, 50 and 88 hundredths of its 570 m
    const middles = own.marked.map(({ min, max }) => [(min.x + max.x) / 2, (min.y + max.y) / 2]);
    expect(middles.flat()).toEqual(
      [412_378_400, 7_208_210_000, 412_500_000, 7_208_305_000, 412_500_000, 7_208_521_600].map(
        (value) => expect.closeTo(value, 3) as number,
      ),
    );
    expect(named('follow-line').begin({ ...scene(1), line: null })).toBeNull();
  });

  it('a measurement counts from square to square, in two panes, either way', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const own = begun('measure-across', seed);
        const [one, other] = own.marked.map(({ min, max }) => ({
          x: (min.x + max.x) / 2,
          y: (min.y + max.y) / 2,
          z: 0,
        }));
        const points = [one!, other!];
        expect(own.reached(state({ panes: 2, points }), 0)).toBe(1);
        expect(own.reached(state({ panes: 2, points: points.toReversed() }), 0)).toBe(1);
        expect(own.reached(state({ panes: 1, points }), 0)).toBe(0);
        expect(own.reached(state({ panes: 2, points: [one!, one!] }), 0)).toBe(0);
        expect(own.reached(state({ panes: 2, points: [one!] }), 0)).toBe(0);
      }),
    );
  });

  it('know a scale, a tag, a side, north and two panes', () => {
    const scale = begun('exact-scale');
    const wanted = Number(/1:(\d+)/.exec(scale.goal)![1]);
    expect(scale.reached(state({ scaleDenominator: wanted }), 0)).toBe(1);
    expect(scale.reached(state({ scaleDenominator: wanted * 1.001 }), 0)).toBe(0);

    const tag = begun('find-tag');
    const near = { ...whole, target: { x: 412_500_100, y: 7_208_300_000, z: 0 } };
    expect(tag.reached(state({ camera: { ...near, unitsPerPx: 10 } }), 0)).toBe(1);
    expect(tag.reached(state({ camera: near }), 0)).toBe(0);
    expect(named('find-tag').begin({ ...scene(1), tag: null })).toBeNull();

    const side = begun('look-at-side');
    const reached = standardDirections.filter((direction) =>
      side.reached(state({ camera: { ...whole, orientation: orientationOf(direction) } }), 0),
    );
    expect(reached).toHaveLength(1);

    const askew = begun('straighten');
    expect(askew.reached(state({ camera: whole }), 0)).toBe(1);

    const panes = begun('two-panes');
    expect(panes.reached(state({ panes: 2, areTwoAlike: true }), 0)).toBe(1);
    expect(panes.reached(state({ panes: 2 }), 0)).toBe(0);

    const back = begun('come-back');
    expect(back.reached(state(), 0)).toBe(1);
  });
});
