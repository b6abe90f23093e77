import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Warnings } from '../warnings.ts';
import { readObj } from './read-obj.ts';
import { triangulated } from './triangulated.ts';

const read = (text: string) => {
  const warnings = new Warnings('line');
  return { objects: readObj(new TextEncoder().encode(text), warnings), warnings: warnings.list() };
};

describe('an OBJ', () => {
  it('keeps the doubles of a national grid', () => {
    const { objects } = read(
      'v 412600500.125 7208400250.375 1.0000001\nv 412600501 7208400250 1\nv 412600500 7208400251 2\nf 1 2 3\n',
    );
    expect([...objects[0]!.parts[0]!.positions.subarray(0, 3)]).toEqual([412600500.125, 7208400250.375, 1.0000001]);
    expect(objects[0]!.name).toBe('Object 1');
  });

  it('has several materials in one object, and comes back to each', () => {
    const { objects } = read(
      'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\no Skid\nusemtl Steel\nf 1 2 3\nusemtl Brass\nf 1 3 4\nusemtl Steel\nf 2 3 4\no Tank\nf 1 2 4\n',
    );
    expect(
      objects.map(({ name, parts }) => [
        name,
        ...parts.map(({ material, triangles }) => `${material} ${triangles.length}`),
      ]),
    ).toEqual([
      ['Skid', 'Steel 6', 'Brass 3'],
      ['Tank', 'Steel 3'],
    ]);
  });

  it('takes corners with textures and normals, counted from the end, and lines that go on', () => {
    const { objects } = read(
      'v 0 0 0\nv 1 0 0 0.5 0.5 0.5\nv 1 1 0\nvt 0 0\nvn 0 0 1\nf -3/1/1 \\\n-2//1 -1/1\n# f 1 2 3\n',
    );
    const [part] = objects[0]!.parts;
    expect([...part!.positions]).toEqual([0, 0, 0, 1, 0, 0, 1, 1, 0]);
    expect([...part!.triangles]).toEqual([0, 1, 2]);
  });

  it('has lines of its own, and the colours of its vertices', () => {
    const { objects } = read('v 0 0 0 1 0 0\nv 1 0 0\nv 1 1 0 0 0 1\nl 1 2 3\nf 1 2 3\n');
    const [part] = objects[0]!.parts;
    expect([...part!.edges!]).toEqual([0, 1, 1, 2]);
    expect([...part!.colours!]).toEqual([255, 0, 0, 190, 190, 190, 0, 0, 255]);
    expect(read('v 0 0 0 1\nv 1 0 0 1\nv 1 1 0 1\nf 1 2 3\n').objects[0]!.parts[0]!.colours).toBeUndefined();
  });

  it('leaves faces out that refer to what isn’t there, and says how many', () => {
    const { objects, warnings } = read('v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 3\nf 1 2 9\nf 0 1 2\nf x 1 2\nl 1 9\np 1 9\n');
    expect(objects[0]!.parts[0]!.triangles).toHaveLength(3);
    expect(objects[0]!.parts[1]).toMatchObject({ arePoints: true, positions: new Float64Array(3) });
    expect(warnings.map(({ count }) => count)).toEqual([5]);
  });
});

describe('a face', () => {
  const area = (corners: readonly number[], xyz: readonly number[]): number => {
    let sum = 0;
    for (let i = 0; i < corners.length; i += 3) {
      const [a, b, c] = [corners[i]!, corners[i + 1]!, corners[i + 2]!].map(
        (k) => [xyz[3 * k]!, xyz[3 * k + 1]!] as const,
      );
      sum += ((b![0] - a![0]) * (c![1] - a![1]) - (b![1] - a![1]) * (c![0] - a![0])) / 2;
    }
    return sum;
  };

  it('of any star’s shape is filled once, without anything beside it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 2, max: 10 }), { minLength: 4, maxLength: 40 }),
        fc.constantFrom(0, 7.2e9),
        (radii, away) => {
          const xyz = radii.flatMap((radius, k) => {
            const angle = (2 * Math.PI * k) / radii.length;
            return [away + radius * Math.cos(angle), radius * Math.sin(angle), 3];
          });
          const corners = radii.map((_, k) => k);
          const { triangles } = triangulated(corners, xyz)!;
          expect(triangles).toHaveLength(3 * (radii.length - 2));
          const near = xyz.map((value, i) => (i % 3 === 0 ? value - away : value));
          const whole = radii.reduce((sum, _, k) => {
            const next = (k + 1) % radii.length;
            return sum + (near[3 * k]! * near[3 * next + 1]! - near[3 * next]! * near[3 * k + 1]!) / 2;
          }, 0);
          // no triangle is turned over: their areas are all of one sign and sum up to the whole
          for (let i = 0; i < triangles.length; i += 3)
            expect(area(triangles.slice(i, i + 3), near)).toBeGreaterThan(-1e-5);
          expect(area(triangles, near)).toBeCloseTo(whole, 4);
        },
      ),
    );
  });

  it('of four corners is filled once, however it lies and whichever corner comes first', () => {
    const part = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        fc.tuple(part, part, part, part).filter((q) => Math.hypot(...q) > 0.1),
        fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 4, maxLength: 4 }),
        fc.nat(3),
        fc.constantFrom(0, 7.2e9),
        (turn, radii, begin, away) => {
          const [w, x, y, z] = turn.map((k) => k / Math.hypot(...turn)) as [number, number, number, number];
          // the first two columns of the rotation of a quaternion span its plane
          const [e1, e2] = [
            [1 - 2 * (y * y + z * z), 2 * (x * y + w * z), 2 * (x * z - w * y)],
            [2 * (x * y - w * z), 1 - 2 * (x * x + z * z), 2 * (y * z + w * x)],
          ] as const;
          // the last corner may lie within the others
          const flat = radii.flatMap((radius, k) => {
            const angle = (Math.PI / 180) * 100 * k;
            return [radius * Math.cos(angle), radius * Math.sin(angle), 0];
          });
          const xyz = radii.flatMap((_, k) => {
            const [u, v] = [flat[3 * k]!, flat[3 * k + 1]!];
            return [0, 1, 2].map((axis) => away + u * e1[axis]! + v * e2[axis]!);
          });
          const corners = [0, 1, 2, 3].map((k) => (begin + k) % 4);
          const { triangles } = triangulated(corners, xyz)!;
          expect(triangles).toHaveLength(6);
          for (let i = 0; i < 6; i += 3) expect(area(triangles.slice(i, i + 3), flat)).toBeGreaterThan(-1e-4);
          expect(area(triangles, flat)).toBeCloseTo(area([0, 1, 2, 0, 2, 3], flat), 6);
        },
      ),
    );
  });

  it('that lies on its side is filled, too', () => {
    // an L in the plane of y and z
    const xyz = [0, 0, 0, 0, 2, 0, 0, 2, 1, 0, 1, 1, 0, 1, 2, 0, 0, 2];
    const { triangles } = triangulated([0, 1, 2, 3, 4, 5], xyz)!;
    const seen = xyz.flatMap((_, i) => (i % 3 === 0 ? [xyz[i + 1]!, xyz[i + 2]!, 0] : []));
    expect(area(triangles, seen)).toBeCloseTo(3, 12);
  });

  it('of many corners is filled exactly, in its plane, the right way up', () => {
    const count = 20_000;
    // a saw-toothed disk that leans against the ground
    const flat = Array.from({ length: count }, (_, k) => {
      const [radius, angle] = [k % 2 === 0 ? 800 : 1000, (2 * Math.PI * k) / count];
      return [412_600_000 + radius * Math.cos(angle), radius * Math.sin(angle)];
    });
    const xyz = flat.flatMap(([x, y]) => [x!, y!, 0.25 * (x! - 412_600_000) + 7]);
    const { triangles, places, firstNew } = triangulated(
      flat.map((_, k) => k),
      xyz,
    )!;
    const all = [...xyz, ...places].map((value, i) => (i % 3 === 0 ? value - 412_600_000 : value));
    expect(firstNew).toBe(count);
    for (let i = 0; i < all.length; i += 3) expect(all[i + 2]!).toBeCloseTo(0.25 * all[i]! + 7, 5);
    // so many triangles between the centre and two neighbours
    expect(area(triangles, all) / ((count * 800 * 1000 * Math.sin((2 * Math.PI) / count)) / 2)).toBeCloseTo(1, 9);
    for (let i = 0; i < triangles.length; i += 3) expect(area(triangles.slice(i, i + 3), all)).toBeGreaterThan(-1e-6);
  });
});

describe('the lines of an OBJ', () => {
  const number = fc.oneof(fc.double({ noNaN: true, noDefaultInfinity: true }), fc.integer());
  const blank = fc.constantFrom(' ', '  ', '\t', ' \\\n', ' \\\r\n ');

  it('are read to the last bit, however they are broken and ended', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(number, number, number), { minLength: 1, maxLength: 12 }),
        blank,
        fc.constantFrom('\n', '\r\n', ' \n\n', '\n# v 9 9 9\n'),
        (vertices, gap, end) => {
          const lines = vertices.map((xyz) => ['v', ...xyz].join(gap));
          const { objects } = read([...lines, ['p', ...vertices.map((_, k) => k + 1)].join(gap)].join(end));
          expect([...objects[0]!.parts[0]!.positions]).toEqual(vertices.flat().map((value) => value + 0));
        },
      ),
    );
  });

  it('may end with the file, in the middle of one that goes on', () => {
    expect(read('v 1 2 3\np 1 \\').objects[0]!.parts[0]!.positions).toEqual(Float64Array.of(1, 2, 3));
  });
});
