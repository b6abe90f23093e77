import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, cameraAxes, worldToScreen } from '../camera/camera.ts';
import { orientationOf } from '../camera/orbit.ts';
import { aboutAxis, rotate } from '../geometry/quaternion.ts';
import { dot3 } from '../geometry/vec.ts';
import { placeItems } from '../pyramid/place.ts';
import { seededRandom } from '../geometry/random.ts';
import { shade } from './crease-normals.ts';
import { edgesOf } from './feature-edges.ts';
import { hitTile, indexTriangles } from './sight-hit.ts';
import { SolidItems } from './solid-items.ts';
import { encodeSolidTile } from './encode-solid-tile.ts';
import { RUN, decodeSolidTile } from './solid-tile.ts';
import { cube, torus, tube, type TestMesh } from './test-shapes.ts';
import { weld } from './welded-mesh.ts';

const grey = { name: 'Grey', colour: { r: 128, g: 128, b: 128, a: 255 }, metalness: 0, roughness: 1 };

/** A mesh whose triangles share no vertices, as many files have it. */
function loose({ positions, triangles }: TestMesh): TestMesh {
  const apart = Float64Array.from({ length: 3 * triangles.length }, (_, i) => {
    return positions[3 * triangles[Math.floor(i / 3)]! + (i % 3)]!;
  });
  return { positions: apart, triangles: Uint32Array.from({ length: triangles.length }, (_, i) => i) };
}
const isSharp = (normals: Float64Array, edge: number): boolean =>
  [0, 1, 2].every((axis) => normals[6 * edge + axis] === -normals[6 * edge + 3 + axis]!);

describe('edges', () => {
  it('of a cube are its twelve, whether its triangles share vertices or not', () => {
    for (const shape of [cube(100), loose(cube(100))]) {
      const edges = edgesOf(weld(shape.positions, shape.triangles));
      expect(edges.vertices.length / 2).toBe(12);
      expect(Array.from({ length: 12 }, (_, edge) => isSharp(edges.normals, edge))).not.toContain(false);
    }
  });

  it('of a tube are its two rims always, and its sides only as silhouettes', () => {
    const { positions, triangles } = tube(50, 200, 24);
    const edges = edgesOf(weld(positions, triangles));
    const sharp = Array.from({ length: edges.vertices.length / 2 }, (_, edge) => isSharp(edges.normals, edge));
    expect(sharp.filter(Boolean)).toHaveLength(48);
    expect(sharp.filter((is) => !is)).toHaveLength(24);
  });

  it('stay apart where parts of a mesh merely lie side by side', () => {
    const [a, b] = [cube(10), cube(10, [20, 0, 0])];
    const positions = [...a.positions, ...b.positions];
    const triangles = [...a.triangles, ...b.triangles.map((vertex) => vertex + 8)];
    expect(edgesOf(weld(positions, triangles)).vertices.length / 2).toBe(24);
  });
});

describe('silhouettes', () => {
  const viewport = { widthPx: 1000, heightPx: 800 };
  /** Ends of the soft edges that a view draws, as they are seen. */
  function silhouette({ positions, triangles }: TestMesh, tiltRad: number) {
    const camera = { ...planCamera({ x: 0, y: 0, z: 0 }, 1), orientation: orientationOf({ bearingRad: 0.7, tiltRad }) };
    const { back } = cameraAxes(camera);
    const mesh = weld(positions, triangles);
    const { vertices, normals } = edgesOf(mesh);
    const seen: { x: number; y: number }[] = [];
    for (let edge = 0; edge < vertices.length / 2; edge++) {
      const side = (k: number): number =>
        dot3({ x: normals[6 * edge + k]!, y: normals[6 * edge + k + 1]!, z: normals[6 * edge + k + 2]! }, back);
      if (isSharp(normals, edge) || side(0) * side(3) > 0) continue;
      for (const vertex of [vertices[2 * edge]!, vertices[2 * edge + 1]!]) {
        const [x, y, z] = mesh.positions.subarray(3 * vertex, 3 * vertex + 3) as unknown as [number, number, number];
        seen.push(worldToScreen(camera, viewport, { x, y, z }));
      }
    }
    return { seen, camera };
  }

  it('of a cylinder lie within 1 px of the analytic ones: a radius to both sides of its axis', () => {
    const { seen } = silhouette(tube(150, 300, 64), 0.4);
    expect(seen.length).toBeGreaterThanOrEqual(4);
    for (const { x } of seen) expect(Math.abs(Math.abs(x - 500) - 150)).toBeLessThan(1);
  });

  it('of a torus lie within 1 px of the analytic ones: a tube’s radius from its seen centre circle', () => {
    const [radius, round, tilt] = [200, 60, 0.9];
    const { seen } = silhouette(torus(radius, round, 256, 128), tilt);
    expect(seen.length).toBeGreaterThan(100);
    const circle = Array.from({ length: 4000 }, (_, k) => {
      const angle = (k / 4000) * 2 * Math.PI;
      return { x: 500 + radius * Math.cos(angle), y: 400 + radius * Math.sin(angle) * Math.sin(tilt) };
    });
    for (const { x, y } of seen) {
      const nearest = Math.min(...circle.map((at) => Math.hypot(at.x - x, at.y - y)));
      // within the hole of the torus two parts of the contour may be nearer to the circle's other side
      expect(nearest).toBeLessThan(round + 1);
      expect(nearest).toBeGreaterThan(round - 1 - (round * (1 - Math.sin(tilt))) / 2);
    }
  });
});

describe('normals', () => {
  it('are smooth round a tube and split at the edges of a cube', () => {
    const round = tube(50, 200, 48);
    const shaded = shade(weld(round.positions, round.triangles));
    expect(shaded.source.length).toBe(96);
    for (let i = 0; i < shaded.source.length; i++) {
      const [x, y, z] = shaded.normals.subarray(3 * i, 3 * i + 3) as unknown as [number, number, number];
      expect(Math.abs(z)).toBeLessThan(1e-6);
      expect(Math.hypot(x, y)).toBeCloseTo(1, 5);
    }
    const box = cube(10);
    expect(shade(weld(box.positions, box.triangles)).source.length).toBe(24);
  });
});

describe('a shape at several places', () => {
  it('is drawn there as if it stood there alone, turned and larger', () => {
    const turns = fc.tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -3, max: 3, noNaN: true }),
      fc.double({ min: 0.1, max: 10, noNaN: true }),
    );
    fc.assert(
      fc.property(turns, ([x, y, z, angle, scale]) => {
        const length = Math.hypot(x, y, z + 2);
        const axis = { x: x / length, y: y / length, z: (z + 2) / length };
        const orientation = aboutAxis(axis, angle);
        const columns = [
          { x: 1, y: 0, z: 0 },
          { x: 0, y: 1, z: 0 },
          { x: 0, y: 0, z: 1 },
        ].map((own) => rotate(orientation, own));
        const turn = [...columns.map((c) => c.x), ...columns.map((c) => c.y), ...columns.map((c) => c.z)];
        const shape = tube(60, 90, 14);
        const moved = Float64Array.from(shape.positions);
        for (let i = 0; i < moved.length; i += 3) {
          const at = rotate(orientation, { x: moved[i]!, y: moved[i + 1]!, z: moved[i + 2]! });
          moved.set([at.x * scale + 500, at.y * scale, at.z * scale], i);
        }
        const [together, alone] = [new SolidItems(), new SolidItems()];
        const part = { object: 0, material: 0, triangles: shape.triangles };
        const key = {};
        together.add({ ...part, positions: shape.positions, shape: { key, turn: [1, 0, 0, 0, 1, 0, 0, 0, 1] } });
        together.add({ ...part, positions: moved, shape: { key, turn } });
        alone.add({ ...part, positions: moved });
        const [one, other] = [together.piece(1), alone.piece(0)];
        expect(one.edgePositions.length).toBe(other.edgePositions.length);
        expect(together.weight.at(1)).toBe(alone.weight.at(0));
        expect([...one.triangles]).toEqual([...other.triangles]);
        one.positions.forEach((value, i) => expect(value).toBeCloseTo(other.positions[i]!, 6));
        one.normals.forEach((value, i) => expect(value).toBeCloseTo(other.normals[i]!, 4));
        one.edgeNormals.forEach((value, i) => expect(value).toBeCloseTo(other.edgeNormals[i]!, 4));
      }),
      { numRuns: 20 },
    );
  });
});

describe('tiles of solids', () => {
  const far = 7.2e9;
  const items = new SolidItems();
  for (let i = 0; i < 60; i++) {
    const { positions, triangles } =
      i % 2 === 0 ? cube(40 + i, [far + 200 * i, 90 * (i % 7), 30 * i]) : tube(20 + i, 90, 32);
    const moved = i % 2 === 0 ? positions : positions.map((value, k) => value + (k % 3 === 0 ? far + 150 * i : 0));
    items.add({ object: i, material: i % 3, positions: moved, triangles });
  }
  const root = placeItems(items, { tileWeight: 800, random: seededRandom(3) });
  const all = (tile: typeof root): (typeof root)[] => [tile, ...tile.children.flatMap(all)];

  it('hold every piece once, in boxes about all below', () => {
    const placed = all(root).flatMap((tile) => [...tile.items]);
    expect(placed.sort((a, b) => a - b)).toEqual(Array.from({ length: items.length }, (_, item) => item));
    for (const tile of all(root))
      for (const below of tile.children)
        for (let axis = 0; axis < 3; axis++) {
          expect(below.box[axis]!).toBeGreaterThanOrEqual(tile.box[axis]!);
          expect(below.box[axis + 3]!).toBeLessThanOrEqual(tile.box[axis + 3]!);
        }
  });

  it('come back as they were written, to single precision of the tile', () => {
    const origin = { x: far, y: 0, z: 0 };
    const chosen = [0, 1, 2, 3, 4];
    const { bytes, triangles, edges } = encodeSolidTile(items.tilePieces(chosen), origin, [grey, grey, grey]);
    const tile = decodeSolidTile(bytes);
    expect(tile.triangles.length / 3).toBe(triangles);
    expect(tile.edgePositions.length / 6).toBe(edges);
    expect(tile.runs.length).toBe(RUN * chosen.length);
    const corners = (object: number): number[] => {
      const found: number[] = [];
      for (let run = 0, from = 0; run < tile.runs.length; run += RUN) {
        if (tile.runs[run] === object)
          for (let v = from; v < tile.runs[run + 2]!; v++) found.push(tile.positions[3 * v]! + far);
        from = tile.runs[run + 2]!;
      }
      return found;
    };
    for (const item of chosen) {
      const own = Array.from(
        { length: items.piece(item).positions.length / 3 },
        (_, v) => items.piece(item).positions[3 * v]!,
      );
      const read = corners(items.object.at(item));
      expect(read).toHaveLength(own.length);
      read.forEach((x, v) => expect(Math.abs(x - own[v]!)).toBeLessThan(2e-3));
    }
  });

  it('says of other files that they are none', () => {
    expect(() => decodeSolidTile(new Uint8Array(40))).toThrow(RangeError);
  });
});

describe('a line of sight', () => {
  const items = new SolidItems();
  const shapes = [torus(200, 70, 40, 24), cube(120, [-60, 300, -60]), tube(60, 400, 20)];
  shapes.forEach((shape, object) => items.add({ object, material: 0, ...shape }));
  const tile = decodeSolidTile(encodeSolidTile(items.tilePieces([0, 1, 2]), { x: 0, y: 0, z: 0 }, [grey]).bytes);
  const index = indexTriangles(tile);

  /** Tries every triangle, by signed volumes. */
  function bruteForce(from: number[], along: number[], least: number): number {
    let best = Infinity;
    const cross = (a: number[], b: number[]): number[] => [
      a[1]! * b[2]! - a[2]! * b[1]!,
      a[2]! * b[0]! - a[0]! * b[2]!,
      a[0]! * b[1]! - a[1]! * b[0]!,
    ];
    const dot = (a: number[], b: number[]): number => a.reduce((sum, value, k) => sum + value * b[k]!, 0);
    const minus = (a: number[], b: number[]): number[] => a.map((value, k) => value - b[k]!);
    for (let t = 0; t < tile.triangles.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => {
        const at = 3 * tile.triangles[t + k]!;
        return [...tile.positions.subarray(at, at + 3)];
      }) as [number[], number[], number[]];
      const normal = cross(minus(b, a), minus(c, a));
      const distance = dot(normal, minus(a, from)) / dot(normal, along);
      if (!(distance >= least && distance < best)) continue;
      const point = from.map((value, k) => value + distance * along[k]!);
      const sides = [
        [a, b],
        [b, c],
        [c, a],
      ].map(([p, q]) => dot(cross(minus(q!, p!), minus(point, p!)), normal));
      if (sides.every((side) => side >= 0)) best = distance;
    }
    return best;
  }

  it('meets what trying every triangle meets', () => {
    // off the round numbers, so that no line runs along an edge
    const number = fc.integer({ min: -500, max: 500 }).map((value) => value * 0.987654321 + 0.1234567);
    let met = 0;
    fc.assert(
      fc.property(number, number, number, number, number, fc.constantFrom(0, -Infinity), (x, y, a, b, c, least) => {
        const way = [a - x, b - y, c + 0.123];
        const length = Math.hypot(...way);
        const along = way.map((value) => value / length);
        const from = [x, y, 3];
        const hit = hitTile(
          ...([tile, index] as const),
          { from: { x, y, z: 3 }, along: { x: along[0]!, y: along[1]!, z: along[2]! } },
          ...([Infinity, () => true, least] as const),
        );
        const expected = bruteForce(from, along, least);
        if (hit) met++;
        if (!hit) expect(expected).toBe(Infinity);
        else expect(Math.abs(hit.distance - expected)).toBeLessThan(1e-6 * (1 + Math.abs(expected)));
      }),
      { numRuns: 400 },
    );
    expect(met).toBeGreaterThan(50);
  });

  it('passes through what is hidden', () => {
    const down = { from: { x: 200, y: 0, z: 1000 }, along: { x: 0, y: 0, z: -1 } };
    expect(hitTile(tile, index, down, Infinity, () => true, 0)?.object).toBe(0);
    expect(hitTile(tile, index, down, Infinity, (object) => object !== 0, 0)).toBeNull();
  });
});
