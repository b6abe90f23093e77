import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rotate } from '../geometry/quaternion.ts';
import { add3, along3, dot3, scale3, sub3, type Vec3 } from '../geometry/vec.ts';
import { cube, torus, tube, type TestMesh } from '../solid/test-shapes.ts';
import {
  boxAbout,
  clampInto,
  drawFace,
  facesOf,
  facing,
  isInside,
  isKept,
  mayRemain,
  cutBy,
  inForce,
  remainsWhole,
  type ClipFace,
  type ClipVolume,
} from './clip-volume.ts';
import { capOf, cutTriangles, linesInSide, ringsOf } from './section.ts';

const origin: Vec3 = { x: 0, y: 0, z: 0 };
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true, noDefaultInfinity: true });
const unit = fc
  .record({ x: number(-1, 1), y: number(-1, 1), z: number(-1, 1) })
  .filter(({ x, y, z }) => Math.hypot(x, y, z) > 0.2)
  .map((v) => scale3(v, 1 / Math.hypot(v.x, v.y, v.z)));
const volume = fc
  .record({
    normal: unit,
    centre: fc.record({ x: number(-500, 500), y: number(-500, 500), z: number(-500, 500) }),
    half: fc.record({ x: number(5, 400), y: number(5, 400), z: number(5, 400) }),
    keeps: fc.constantFrom('inside' as const, 'outside' as const),
    kind: fc.constantFrom('box' as const, 'plane' as const),
  })
  .map(({ normal, ...rest }): ClipVolume => ({ ...rest, id: 1, name: '', isOn: true, orientation: facing(normal) }));

/** A plane through a point, as one infinite side. */
const planeAt = (middle: Vec3, normal: Vec3): ClipFace =>
  facesOf({
    id: 0,
    name: '',
    kind: 'plane',
    keeps: 'inside',
    isOn: true,
    centre: middle,
    orientation: facing(normal),
    half: { x: 1, y: 1, z: 1 },
  })[0]!;
function linesOf(mesh: TestMesh, face: ClipFace, at = origin): number[] {
  const lines: number[] = [];
  cutTriangles(mesh, [0, mesh.triangles.length], at, face, lines);
  return lines;
}
function areaOf(triangles: readonly number[]): number {
  let area = 0;
  for (let i = 0; i < triangles.length; i += 6) {
    const [ax, ay, bx, by, cx, cy] = triangles.slice(i, i + 6) as [number, number, number, number, number, number];
    area += Math.abs((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) / 2;
  }
  return area;
}

describe('a clip volume', () => {
  it('turned to a normal has it as its Z, and its X level', () => {
    fc.assert(
      fc.property(unit, (normal) => {
        const z = rotate(facing(normal), { x: 0, y: 0, z: 1 });
        expect(dot3(z, normal)).toBeCloseTo(1, 9);
        expect(rotate(facing(normal), { x: 1, y: 0, z: 0 }).z).toBeCloseTo(0, 9);
      }),
    );
  });

  it('has sides whose middles lie on its border: a little inwards is inside, a little outwards isn’t', () => {
    fc.assert(
      fc.property(volume, (own) => {
        for (const { middle, normal, u, v } of facesOf(own)) {
          expect(isInside(own, along3(middle, normal, -0.01))).toBe(true);
          expect(isInside(own, along3(middle, normal, 0.01))).toBe(false);
          // right-handed: u × v is the normal
          const cross = { x: u.y * v.z - u.z * v.y, y: u.z * v.x - u.x * v.z, z: u.x * v.y - u.y * v.x };
          expect(dot3(cross, normal)).toBeCloseTo(1, 9);
        }
      }),
    );
  });

  it('moves one side when that is drawn, and no other', () => {
    fc.assert(
      fc.property(volume, fc.nat(5), number(-3, 300), (own, pick, by) => {
        const face = pick % facesOf(own).length;
        const before = facesOf(own);
        const after = facesOf(drawFace(own, face, by));
        after.forEach(({ middle, normal }, index) => {
          const moved = dot3(sub3(middle, before[index]!.middle), normal);
          expect(moved).toBeCloseTo(index === face ? by : 0, 6);
        });
      }),
    );
  });

  it('about points holds them all, and none smaller does', () => {
    fc.assert(
      fc.property(fc.array(number(-900, 900), { minLength: 9, maxLength: 60 }), unit, (numbers, normal) => {
        const points = numbers.slice(0, numbers.length - (numbers.length % 3));
        const box: ClipVolume = {
          id: 1,
          name: '',
          kind: 'box',
          keeps: 'inside',
          isOn: true,
          ...boxAbout(points, facing(normal), 0),
        };
        const all = Array.from({ length: points.length / 3 }, (_, i) => ({
          x: points[3 * i]!,
          y: points[3 * i + 1]!,
          z: points[3 * i + 2]!,
        }));
        for (const { middle, normal: out } of facesOf(box)) {
          const highest = Math.max(...all.map((point) => dot3(sub3(point, middle), out)));
          expect(highest).toBeLessThan(1e-6);
          // boxes are never thinner than 1
          expect(highest).toBeGreaterThan(-1.001);
        }
      }),
    );
  });

  it('never says that nothing remains where a point does, nor that all does where one is gone', () => {
    const point = fc.record({ x: number(-900, 900), y: number(-900, 900), z: number(-900, 900) });
    fc.assert(
      fc.property(fc.array(volume, { maxLength: 3 }), point, point, (volumes, centre, reach) => {
        const half = { x: Math.abs(reach.x), y: Math.abs(reach.y), z: Math.abs(reach.z) };
        const isWhole = remainsWhole(volumes, centre, half);
        for (let k = 0; k < 27; k++) {
          const share = [0, 1, 2].map((axis) => (Math.floor(k / 3 ** axis) % 3) - 1);
          const at = add3(centre, { x: share[0]! * half.x, y: share[1]! * half.y, z: share[2]! * half.z });
          if (isKept(volumes, at)) expect(mayRemain(volumes, centre, half)).toBe(true);
          else expect(isWhole).toBe(false);
        }
      }),
    );
  });

  it('tells which volumes cut a box, counting those in force', () => {
    const point = fc.record({ x: number(-900, 900), y: number(-900, 900), z: number(-900, 900) });
    fc.assert(
      fc.property(fc.array(volume, { maxLength: 4 }), point, point, (volumes, centre, reach) => {
        const half = { x: Math.abs(reach.x), y: Math.abs(reach.y), z: Math.abs(reach.z) };
        const cutting = inForce(volumes).filter((_, i) => (cutBy(volumes, centre, half) & (1 << i)) !== 0);
        expect(cutting).toEqual(inForce(volumes).filter((one) => !remainsWhole([one], centre, half)));
      }),
    );
  });

  it('takes points into itself, and leaves those that are there', () => {
    fc.assert(
      fc.property(volume, fc.record({ x: number(-900, 900), y: number(-900, 900), z: number(-900, 900) }), (own, p) => {
        const inside = { ...own, keeps: 'inside' as const };
        const held = clampInto([inside], p);
        expect(
          isKept(
            [
              {
                ...inside,
                half: scale3(inside.half, 1.000001),
                centre: along3(
                  inside.centre,
                  rotate(inside.orientation, { x: 0, y: 0, z: 1 }),
                  own.kind === 'plane' ? 1e-6 : 0,
                ),
              },
            ],
            held,
          ),
        ).toBe(true);
        if (isInside(own, p)) for (const axis of ['x', 'y', 'z'] as const) expect(held[axis]).toBeCloseTo(p[axis], 6);
      }),
    );
  });
});

describe('a cap', () => {
  const up: Vec3 = { x: 0, y: 0, z: 1 };

  it('of a cube cut level is its square, at E 4.1e8, N 7.2e9 too', () => {
    const far = { x: 4.1e8, y: 7.2e9, z: 0 };
    const face = planeAt({ x: far.x + 30, y: far.y - 10, z: 40 }, up);
    const lines = linesOf(cube(100), face, far);
    expect(ringsOf(lines, 1e-6)).toHaveLength(1);
    expect(areaOf(capOf(lines, face, 1e-6))).toBeCloseTo(10_000, 3);
  });

  it('of a torus through its axis is two circles, level through its middle a ring', () => {
    const shape = torus(200, 60, 256, 128);
    const through = planeAt(origin, { x: 1, y: 0, z: 0 });
    const lines = linesOf(shape, through);
    expect(ringsOf(lines, 1e-6)).toHaveLength(2);
    // polygons of 128 and 256 corners
    const ngon = (radius: number, sides: number): number => (sides / 2) * radius ** 2 * Math.sin((2 * Math.PI) / sides);
    expect(areaOf(capOf(lines, through, 1e-6)) / (2 * ngon(60, 128))).toBeCloseTo(1, 6);
    const level = planeAt({ x: 0, y: 0, z: 1e-9 }, up);
    expect(areaOf(capOf(linesOf(shape, level), level, 1e-5)) / (ngon(260, 256) - ngon(140, 256))).toBeCloseTo(1, 4);
  });

  it('of a sphere-like solid has the area of its circle, however it is cut', () => {
    const [columns, rows, radius] = [96, 48, 100];
    const positions: number[] = [];
    const triangles: number[] = [];
    for (let j = 0; j <= rows; j++)
      for (let i = 0; i < columns; i++) {
        const [a, b] = [(2 * Math.PI * i) / columns, Math.PI * (j / rows - 0.5)];
        positions.push(radius * Math.cos(b) * Math.cos(a), radius * Math.cos(b) * Math.sin(a), radius * Math.sin(b));
      }
    for (let j = 0; j < rows; j++)
      for (let i = 0; i < columns; i++) {
        const next = (i + 1) % columns;
        const [p, q] = [j * columns, (j + 1) * columns];
        triangles.push(p + i, p + next, q + next, p + i, q + next, q + i);
      }
    const ball = { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
    fc.assert(
      fc.property(unit, number(-80, 80), (normal, height) => {
        const face = planeAt(scale3(normal, height), normal);
        const lines = linesOf(ball, face);
        const wanted = Math.PI * (radius ** 2 - height ** 2);
        expect(Math.abs(areaOf(capOf(lines, face, 1e-6)) / wanted - 1)).toBeLessThan(0.02);
        // closed: every end is met by another one
        const covered = ringsOf(lines, 1e-6).reduce((sum, ring) => sum + ring.length / 2, 0);
        expect(covered).toBe(lines.length / 4);
      }),
      { numRuns: 60 },
    );
  });

  it('of an open shell is nothing: a tube without ends encloses no solid where it is cut along', () => {
    const face = planeAt(origin, { x: 1, y: 0, z: 0 });
    expect(capOf(linesOf(tube(50, 200, 24), face), face, 1e-6)).toEqual([]);
  });

  it('ends where its side ends', () => {
    const box: ClipVolume = {
      id: 1,
      name: '',
      kind: 'box',
      keeps: 'inside',
      isOn: true,
      orientation: facing(up),
      centre: { x: 0, y: 0, z: 50 },
      half: { x: 30, y: 45, z: 20 },
    };
    const top = facesOf(box)[5]!;
    const solid = cube(200, [-100, -100, -100]);
    const lines = linesOf(solid, top);
    expect(areaOf(capOf(lines, top, 1e-6))).toBeCloseTo(60 * 90, 6);
    expect(linesInSide(lines, top)).toEqual([]);
    // a cube whose corner reaches into the side
    const corner = linesOf(cube(200, [10, 15, -100]), top);
    expect(areaOf(capOf(corner, top, 1e-6))).toBeCloseTo(20 * 30, 6);
    const inSide = linesInSide(corner, top);
    let length = 0;
    for (let i = 0; i < inSide.length; i += 4)
      length += Math.hypot(inSide[i + 2]! - inSide[i]!, inSide[i + 3]! - inSide[i + 1]!);
    expect(length).toBeCloseTo(20 + 30, 6);
  });
});
