import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutterOf, keptPolygons, keptStretches } from './cut-pieces.ts';
import { isKept, type ClipVolume } from '../clip/clip-volume.ts';
import { aboutAxis } from '../geometry/quaternion.ts';
import type { Vec3 } from '../geometry/vec.ts';
import { chainLines } from './chain-lines.ts';
import { SeenScene } from './seen-scene.ts';
import { shadedPicture } from './shaded-picture.ts';
import { litColour } from './surface-light.ts';
import { allLines, visibleLines, type Stretches } from './visible-lines.ts';

/** Seen from above: x to the right, y down, what is higher is nearer. */
const fromAbove = ({ x, y, z }: Vec3): readonly [number, number, number] => [x, y, z];
const sampling = { width: 100, height: 80, perUnit: 10, slack: () => 0.02 };
const grey = [128, 128, 128] as const;

type Corner = readonly [number, number, number];
const triangle = (scene: SeenScene, corners: readonly Corner[], colour: readonly number[] = grey): void =>
  scene.triangle(
    corners.flatMap((corner) => [...corner, ...colour]),
    [],
  );
/** A level rectangle. */
function plate(
  scene: SeenScene,
  [x0, y0, x1, y1]: readonly number[],
  z: number,
  colour: readonly number[] = grey,
): void {
  const [a, b, c, d] = [
    [x0!, y0!, z],
    [x1!, y0!, z],
    [x1!, y1!, z],
    [x0!, y1!, z],
  ] as const;
  triangle(scene, [a, b, c], colour);
  triangle(scene, [a, c, d], colour);
}
const sceneOf = (isShaded = false): SeenScene => new SeenScene(fromAbove, [], isShaded);
const seenOf = ({ ends, isSeen }: Stretches): number[][] =>
  [...isSeen].flatMap((seen, k) => (seen ? [[...ends.subarray(4 * k, 4 * k + 4)]] : []));

describe('hidden lines', () => {
  it('end exactly where a surface lies over them, finer than they are sampled', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 40, noNaN: true }),
        fc.double({ min: 1, max: 30, noNaN: true }),
        (left, wide) => {
          const scene = sceneOf();
          plate(scene, [left, 20, left + wide, 60], 5);
          scene.line([5, 40, 0, 95, 40, 0], 0, []);
          const seen = seenOf(visibleLines(scene, sampling));
          expect(seen).toHaveLength(2);
          // a tenth of a unit is a sample, halved eight times
          expect(seen[0]![2]).toBeCloseTo(left, 2);
          expect(seen[1]![0]).toBeCloseTo(left + wide, 2);
        },
      ),
    );
  });

  it('stay where they lie on their own faces or before a surface', () => {
    const scene = sceneOf();
    plate(scene, [10, 10, 90, 70], 5);
    scene.line([10, 10, 5, 90, 10, 5], 0, []); // an edge of the plate
    scene.line([20, 30, 5, 80, 50, 5], 1, []); // a line on it
    scene.line([20, 50, 9, 80, 30, 9], 2, []); // one over it
    scene.line([20, 40, 4.9, 80, 40, 4.9], 3, []); // one just below
    const { line, isSeen } = visibleLines(scene, sampling);
    expect([...line]).toEqual([0, 1, 2, 3]);
    expect([...isSeen]).toEqual([1, 1, 1, 0]);
  });

  it('are the same as by looking at every triangle', () => {
    const place = fc.tuple(
      fc.double({ min: 2, max: 98, noNaN: true }),
      fc.double({ min: 2, max: 78, noNaN: true }),
      fc.double({ min: -20, max: 20, noNaN: true }),
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(place, place, place), { maxLength: 12 }), place, place, (triangles, from, to) => {
        const scene = sceneOf();
        for (const corners of triangles) triangle(scene, corners);
        scene.line([...from, ...to], 0, []);
        const seen = seenOf(visibleLines(scene, sampling));
        const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
        const isDrawn = (share: number): boolean => {
          const [x, y] = [from[0] + share * dx, from[1] + share * dy];
          return seen.some(([x0, y0, x1, y1]) => {
            const [wx, wy] = [x1! - x0!, y1! - y0!];
            const t = ((x - x0!) * wx + (y - y0!) * wy) / (wx * wx + wy * wy || 1);
            return t >= 0 && t <= 1;
          });
        };
        for (let k = 1; k < 40; k++) {
          const share = k / 40;
          const expected = hiddenness(triangles, from, to, share);
          // next to where it changes, and where surfaces are seen from their edge, both are right
          if (expected !== 'either') expect([share, isDrawn(share)]).toEqual([share, expected === 'seen']);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('are found band by band as in one piece', () => {
    const [wide, high] = [700, 700];
    const scene = sceneOf();
    plate(scene, [100, 100, 600, 600], 1);
    scene.line([50, 50, 0, 650, 650, 0], 0, []);
    const { ends, isSeen } = visibleLines(scene, { width: wide, height: high, perUnit: 10, slack: () => 0.02 });
    expect(7000 * 7000).toBeGreaterThan(1 << 24);
    const lengthOf = (seen: number): number =>
      [...isSeen].reduce((sum, own, k) => (own === seen ? sum + ends[4 * k + 2]! - ends[4 * k]! : sum), 0);
    expect(lengthOf(1)).toBeCloseTo(100, 1);
    expect(lengthOf(0)).toBeCloseTo(500, 1);
  });

  it('of points are points: those below a surface are hidden', () => {
    const scene = sceneOf();
    plate(scene, [10, 10, 50, 50], 5);
    for (const [x, z] of [
      [30, 0],
      [30, 9],
      [70, 0],
    ])
      scene.point({ x: x!, y: 30, z: z! }, 0, []);
    expect([...visibleLines(scene, sampling).isSeen]).toEqual([0, 1, 1]);
    expect([...allLines(scene, sampling).isSeen]).toEqual([1, 1, 1]);
  });
});

/** Whether a place of a line is hidden by any of some triangles, by solving for each. */
function hiddenness(
  triangles: readonly (readonly [Corner, Corner, Corner])[],
  from: Corner,
  to: Corner,
  share: number,
): 'seen' | 'hidden' | 'either' {
  const [x, y, z] = [0, 1, 2].map((k) => from[k]! + share * (to[k]! - from[k]!)) as [number, number, number];
  let answer: 'seen' | 'hidden' | 'either' = 'seen';
  for (const [a, b, c] of triangles) {
    const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
    const area = ux * vy - uy * vx;
    const longest = Math.max(Math.hypot(ux, uy), Math.hypot(vx, vy), Math.hypot(ux - vx, uy - vy));
    const [s, t] = [((x - a[0]) * vy - (y - a[1]) * vx) / area, (ux * (y - a[1]) - uy * (x - a[0])) / area];
    // distance to the nearest side; a sliver has no inside to speak of
    const margin = (Math.min(s, t, 1 - s - t) * Math.abs(area)) / longest;
    if (Math.abs(area) / longest < 1) {
      if (margin > -1.5) answer = answer === 'hidden' ? 'hidden' : 'either';
      continue;
    }
    if (margin < -0.2) continue;
    const over = a[2] + s * (b[2] - a[2]) + t * (c[2] - a[2]) - z;
    const [gx, gy] = [
      ((b[2] - a[2]) * vy - (c[2] - a[2]) * uy) / area,
      ((c[2] - a[2]) * ux - (b[2] - a[2]) * vx) / area,
    ];
    const rounding = 0.05 + 0.3 * Math.hypot(gx, gy);
    if (margin > 0.2 && over > rounding) return 'hidden';
    if (over > -rounding) answer = 'either';
  }
  return answer;
}

const half = { x: 12, y: 9, z: 7 };
const volume = fc
  .record({
    kind: fc.constantFrom('box' as const, 'plane' as const),
    keeps: fc.constantFrom('inside' as const, 'outside' as const),
    angle: fc.double({ min: -3, max: 3, noNaN: true }),
    x: fc.double({ min: -10, max: 10, noNaN: true }),
    y: fc.double({ min: -10, max: 10, noNaN: true }),
  })
  .map(({ kind, keeps, angle, x, y }): ClipVolume => ({
    id: 1,
    name: '',
    kind,
    keeps,
    half,
    isOn: true,
    centre: { x, y, z: 1 },
    orientation: aboutAxis({ x: 0.6, y: 0, z: 0.8 }, angle),
  }));

describe('what volumes cut', () => {
  const corners = [-20, -15, 0, 22, -12, 3, 15, 18, -2];

  const step = 1e-3;
  const nearby = [-step, step].flatMap((by) => [[by, 0, 0] as const, [0, by, 0] as const, [0, 0, by] as const]);

  it('leaves of a surface exactly what is kept', () => {
    const shares = fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }));
    fc.assert(
      fc.property(
        fc.array(volume, { minLength: 1, maxLength: 3 }),
        fc.array(shares, { minLength: 20 }),
        (volumes, all) => {
          const pieces = keptPolygons(corners, 3, volumes.map(cutterOf));
          for (const [p, q] of all) {
            const [s, t] = p + q > 1 ? [1 - p, 1 - q] : [p, q];
            const at = (k: number): number =>
              corners[k]! + s * (corners[k + 3]! - corners[k]!) + t * (corners[k + 6]! - corners[k]!);
            const place = { x: at(0), y: at(1), z: at(2) };
            const near = nearby.map(([x, y, z]) => isKept(volumes, { x: place.x + x, y: place.y + y, z: place.z + z }));
            if (near.some((one) => one !== near[0])) continue; // next to a border
            expect(pieces.some((piece) => holds(piece, place))).toBe(isKept(volumes, place));
          }
        },
      ),
    );
  });

  it('leaves of a line exactly what is kept', () => {
    fc.assert(
      fc.property(fc.array(volume, { minLength: 1, maxLength: 3 }), (volumes) => {
        const line = [-25, -20, -3, 28, 19, 4];
        const stretches = keptStretches(line, volumes.map(cutterOf));
        for (let k = 0; k <= 50; k++) {
          const share = k / 50;
          const at = (axis: number): number => line[axis]! + share * (line[axis + 3]! - line[axis]!);
          if (stretches.some((ends) => ends.some((end) => Math.abs(end - share) < 1e-6))) continue;
          const isIn = stretches.some(([from, to]) => share > from && share < to);
          expect(isIn).toBe(isKept(volumes, { x: at(0), y: at(1), z: at(2) }));
        }
      }),
    );
  });
});

/** Whether a convex polygon, seen from above, holds a place. */
function holds(polygon: readonly number[], { x, y }: Vec3): boolean {
  const count = polygon.length / 3;
  let twice = 0;
  for (let i = 0; i < count; i++) {
    const j = 3 * ((i + 1) % count);
    twice += polygon[3 * i]! * polygon[j + 1]! - polygon[j]! * polygon[3 * i + 1]!;
  }
  if (Math.abs(twice) < 1e-3) return false; // a sliver on a border
  const sides = Array.from({ length: count }, (_, i) => {
    const [ax, ay] = [polygon[3 * i]!, polygon[3 * i + 1]!];
    const j = 3 * ((i + 1) % count);
    return (polygon[j]! - ax) * (y - ay) - (polygon[j + 1]! - ay) * (x - ax);
  });
  return sides.every((side) => side >= -1e-6) || sides.every((side) => side <= 1e-6);
}

describe('lines that are joined', () => {
  it('keep their whole length, each once', () => {
    const grid = fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 }));
    fc.assert(
      fc.property(fc.array(fc.tuple(grid, grid), { maxLength: 40 }), (all) => {
        const once = new Map<string, number>();
        for (const [a, b] of all) {
          const key = [a.join(), b.join()].sort().join(' ');
          once.set(key, Math.hypot(a[0] - b[0], a[1] - b[1]));
        }
        const runs = chainLines(all.flatMap(([a, b]) => [...a, ...b]));
        const length = runs.reduce((sum, run) => {
          for (let i = 2; i < run.length; i += 2) sum += Math.hypot(run[i]! - run[i - 2]!, run[i + 1]! - run[i - 1]!);
          return sum;
        }, 0);
        expect(length).toBeCloseTo(
          [...once.values()].reduce((a, b) => a + b, 0),
          6,
        );
      }),
    );
  });

  it('become one run, without corners that lie on its way', () => {
    expect(chainLines([0, 0, 1, 0, 2, 0, 1, 0, 2, 0, 2, 5])).toEqual([[0, 0, 2, 0, 2, 5]]);
  });
});

describe('shaded pictures', () => {
  const colourAt = ({ width, pixels }: ReturnType<typeof shadedPicture>, x: number, y: number): number[] =>
    [0, 1, 2].map((k) => pixels[3 * (y * width + x) + k]!);

  it('show the nearest surface, and paper where there is none', () => {
    const scene = sceneOf(true);
    plate(scene, [0, 0, 50, 80], 1, [200, 0, 0]);
    plate(scene, [25, 0, 75, 80], 2, [0, 0, 200]);
    const picture = shadedPicture(scene, { width: 100, height: 80 }, 1, false);
    expect([picture.width, picture.height]).toEqual([100, 80]);
    expect(colourAt(picture, 10, 40)).toEqual([200, 0, 0]);
    expect(colourAt(picture, 40, 40)).toEqual([0, 0, 200]);
    expect(colourAt(picture, 90, 40)).toEqual([255, 255, 255]);
  });

  it('mix colours along a surface and at its border', () => {
    const scene = sceneOf(true);
    scene.triangle([0, 0, 0, 0, 0, 0, 100, 0, 0, 100, 0, 0, 0, 80, 0, 0, 0, 0], []);
    plate(scene, [50.5, 60, 90, 80], 5, [0, 0, 0]);
    const picture = shadedPicture(scene, { width: 100, height: 80 }, 1, false);
    expect(Math.abs(colourAt(picture, 40, 20)[0]! - 40.5)).toBeLessThanOrEqual(1);
    const [border] = colourAt(picture, 50, 70); // half paper, half black
    expect(Math.abs(border! - 127.5)).toBeLessThanOrEqual(1);
  });

  it('of what is seen through have every surface', () => {
    const scene = sceneOf(true);
    plate(scene, [0, 0, 50, 80], 1, [0, 0, 0]);
    plate(scene, [25, 0, 75, 80], 2, [0, 0, 0]);
    const picture = shadedPicture(scene, { width: 100, height: 80 }, 1, true);
    expect(colourAt(picture, 10, 40)[0]).toBe(Math.round(0.8 * 255));
    expect(colourAt(picture, 40, 40)[0]).toBe(Math.round(0.64 * 255));
  });
});

describe('the light of surfaces', () => {
  const material = { name: '', colour: { r: 100, g: 100, b: 100, a: 255 }, metalness: 0, roughness: 1 };
  const towards = { x: 0, y: 0, z: 1 };

  it('is that of the side that is seen', () => {
    const normal = { x: 0.6, y: 0, z: 0.8 };
    const turned = { x: -0.6, y: 0, z: -0.8 };
    expect(litColour(material, turned, towards, false)).toEqual(litColour(material, normal, towards, false));
  });

  it('is brighter where a surface is turned to it, and brightest on what shines', () => {
    const [light] = litColour(material, { x: -0.4, y: 0.5, z: Math.sqrt(1 - 0.41) }, towards, false);
    const [shade] = litColour(material, { x: 0.6, y: -0.7, z: Math.sqrt(1 - 0.85) }, towards, false);
    expect(light).toBeGreaterThan(shade * 1.5);
    const half = { x: -0.4, y: 0.55, z: 0.75 + Math.hypot(-0.4, 0.55, 0.75) };
    const long = Math.hypot(half.x, half.y, half.z);
    const normal = { x: half.x / long, y: half.y / long, z: half.z / long };
    const [shining] = litColour({ ...material, roughness: 0.1 }, normal, towards, true);
    expect(shining).toBeGreaterThan(litColour(material, normal, towards, false)[0]);
  });
});
