import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clipRing, clipSegment } from '../geometry/clip.ts';
import { MeshBuilder, buildHairlines, buildStrokes, type LineSource, type Placement } from './stroke-mesh.ts';

const polyline = (...points: [number, number][]): LineSource => ({
  positions: Float32Array.from(points.flatMap(([x, y]) => [x, y, 0])),
  low: null,
  along: Float32Array.from(points, (_, i) => i),
  lines: Uint32Array.from(points.slice(1).flatMap((_, i) => [i, i + 1])),
});
const whole = (source: LineSource) => ({ style: 0, start: 0, count: source.lines.length });
const unclipped: Placement = { shiftX: 0, shiftY: 0, clip: null };

/** Area of the stroke at a width, triangles that overlap counted twice. */
function area(mesh: MeshBuilder, width: number): number {
  const at = (index: number): [number, number] => {
    const vertex = mesh.indices.at(index);
    return [0, 1].map((c) => mesh.positions.at(2 * vertex + c) + (mesh.offsets.at(2 * vertex + c) * width) / 2) as [
      number,
      number,
    ];
  };
  let sum = 0;
  for (let i = 0; i < mesh.indices.length; i += 3) {
    const [a, b, c] = [at(i), at(i + 1), at(i + 2)];
    sum += Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])) / 2;
  }
  return sum;
}

const stroke = (source: LineSource, placement = unclipped): MeshBuilder => {
  const mesh = new MeshBuilder();
  buildStrokes(source, whole(source), placement, mesh);
  return mesh;
};

describe('a stroke', () => {
  it('covers length times width, ends cut off square', () => {
    expect(area(stroke(polyline([0, 0], [30, 40])), 4)).toBeCloseTo(200, 4);
  });

  it('fills a right-angled corner to its tip and no further', () => {
    // two bars of 100 × 10 that share a square of 10 × 10 at the corner
    expect(area(stroke(polyline([0, 0], [100, 0], [100, 100])), 10)).toBeCloseTo(2000, 3);
  });

  it('closes a ring with a corner like the others', () => {
    expect(area(stroke(polyline([0, 0], [100, 0], [100, 100], [0, 100], [0, 0])), 10)).toBeCloseTo(4000, 3);
  });

  it('cuts off a corner that is too sharp instead of shooting out', () => {
    const mesh = stroke(polyline([0, 0], [100, 0], [0, 1]));
    for (let i = 0; i < mesh.vertices; i++) {
      expect(Math.hypot(mesh.offsets.at(2 * i), mesh.offsets.at(2 * i + 1))).toBeLessThanOrEqual(4.0001);
    }
    expect(mesh.indices.length).toBe(6 + 3 + 6);
  });

  it('keeps only what reaches into the clip, with the length along it', () => {
    const clip = { minX: 40, minY: -1, maxX: 60, maxY: 1 };
    const source = polyline([0, 0], [100, 0], [100, 900]);
    const mesh = stroke(source, { ...unclipped, clip });
    expect(area(mesh, 1)).toBeCloseTo(20, 4);
    expect([...mesh.along.view()]).toEqual([0.4, 0.4, 0.6, 0.6].map(Math.fround));
    const lines = new MeshBuilder();
    buildHairlines(source, whole(source), { ...unclipped, clip }, lines);
    expect([...lines.positions.view()]).toEqual([40, 0, 60, 0]);
  });

  it('is exact to a thousandth where single precision alone is off by several hundredths', () => {
    const exact = 412_300_000.123 - 412_000_000;
    const source: LineSource = {
      positions: Float32Array.of(exact, 0, 0, exact, 10, 0),
      low: Float32Array.of(exact - Math.fround(exact), 0, exact - Math.fround(exact), 0),
      along: new Float32Array(2),
      lines: Uint32Array.of(0, 1),
    };
    const placement = { shiftX: -300_000, shiftY: 0, clip: null };
    const mesh = new MeshBuilder();
    buildHairlines(source, whole(source), placement, mesh);
    expect(Math.abs(mesh.positions.at(0) - 0.123)).toBeLessThan(1e-6);
    buildHairlines({ ...source, low: null }, whole(source), placement, mesh);
    expect(Math.abs(mesh.positions.at(4) - 0.123)).toBeGreaterThan(1e-3);
  });
});

const coordinate = fc.double({ min: -100, max: 100, noNaN: true });
const box = { minX: -20, minY: -30, maxX: 40, maxY: 10 };
const isInside = (x: number, y: number, by = 0): boolean =>
  x >= box.minX - by && x <= box.maxX + by && y >= box.minY - by && y <= box.maxY + by;

describe('clipping', () => {
  it('keeps exactly the points of a segment that lie in the box', () => {
    fc.assert(
      fc.property(coordinate, coordinate, coordinate, coordinate, (x0, y0, x1, y1) => {
        const out: [number, number] = [0, 1];
        const hits = clipSegment(x0, y0, x1, y1, box, out);
        for (let i = 0; i <= 50; i++) {
          const t = i / 50;
          const [x, y] = [x0 + (x1 - x0) * t, y0 + (y1 - y0) * t];
          if (isInside(x, y, -1e-6)) expect(hits && t >= out[0] - 1e-6 && t <= out[1] + 1e-6).toBe(true);
          else if (!isInside(x, y, 1e-6)) expect(hits && t > out[0] + 1e-6 && t < out[1] - 1e-6).toBe(false);
        }
      }),
    );
  });

  it('leaves of a triangle what lies in the box', () => {
    fc.assert(
      fc.property(fc.array(coordinate, { minLength: 6, maxLength: 6 }), (triangle) => {
        const ring = clipRing(triangle, box);
        for (let i = 0; i < ring.length; i += 2) expect(isInside(ring[i]!, ring[i + 1]!, 1e-6)).toBe(true);
      }),
    );
    expect(clipRing([-1000, -1000, 3000, -1000, -1000, 3000], box)).toHaveLength(8);
    expect(clipRing([100, 100, 120, 100, 100, 120], box)).toEqual([]);
  });
});
