import { describe, expect, it } from 'vitest';
import { planCamera, worldToScreen } from '../camera/camera.ts';
import { aboutAxis } from '../geometry/quaternion.ts';
import { seededRandom } from '../geometry/random.ts';
import { dot3, sub3, type Vec3 } from '../geometry/vec.ts';
import { rankSnaps, snapKinds, type SnapKind } from './snap.ts';
import { solidSnaps, type SolidQuestion } from './solid-snaps.ts';
import { featuresOf, type SolidPart } from '../solid/features.ts';

const [E, N] = [412_345_678.123, 7_208_234_567.654];

/** A box of 100 × 60 × 40 whose top is parted in 2 × 1 squares, as meshers leave it. */
function box(x = E, y = N, z = 10): SolidPart {
  const place = (i: number, j: number, k: number): [number, number, number] => [x + 50 * i, y + 60 * j, z + 40 * k];
  const positions: number[] = [];
  const index = new Map<string, number>();
  const vertex = (i: number, j: number, k: number): number => {
    const key = `${i} ${j} ${k}`;
    if (!index.has(key)) {
      index.set(key, positions.length / 3);
      positions.push(...place(i, j, k));
    }
    return index.get(key)!;
  };
  const triangles: number[] = [];
  const quad = (...corners: (readonly [number, number, number])[]): void => {
    const [a, b, c, d] = corners.map((corner) => vertex(...corner)) as [number, number, number, number];
    triangles.push(a, b, c, a, c, d);
  };
  for (const i of [0, 1]) {
    quad([i, 0, 1], [i + 1, 0, 1], [i + 1, 1, 1], [i, 1, 1]);
    quad([i, 1, 0], [i + 1, 1, 0], [i + 1, 0, 0], [i, 0, 0]);
    quad([i, 0, 0], [i + 1, 0, 0], [i + 1, 0, 1], [i, 0, 1]);
    quad([i + 1, 1, 0], [i, 1, 0], [i, 1, 1], [i + 1, 1, 1]);
  }
  quad([0, 1, 0], [0, 0, 0], [0, 0, 1], [0, 1, 1]);
  quad([2, 0, 0], [2, 1, 0], [2, 1, 1], [2, 0, 1]);
  return { positions, triangles, edges: [] };
}

describe('features of solids', () => {
  it('are whole edges, corners and faces, whatever the triangles are', () => {
    const { corners, edges, faces } = featuresOf([box()]);
    expect(corners).toHaveLength(3 * 8);
    expect(edges).toHaveLength(6 * 12);
    expect(faces).toHaveLength(6);
    const top = faces.find(({ normal }) => normal.z > 0.99)!;
    expect(top.centre).toEqual({ x: E + 50, y: N + 30, z: 50 });
    expect(top.area).toBeCloseTo(6000, 6);
  });
});

describe('snaps in solids', () => {
  const features = featuresOf([box()]);
  const viewport = { widthPx: 800, heightPx: 600 };
  const plan = planCamera({ x: E + 50, y: N + 30, z: 50 }, 0.25);
  const tilted = { ...plan, orientation: aboutAxis({ x: 1, y: 0, z: 0 }, 0.8) };
  const question = (place: Vec3, kinds: readonly SnapKind[], more: Partial<SolidQuestion> = {}): SolidQuestion => ({
    camera: tilted,
    viewport,
    at: worldToScreen(tilted, viewport, place),
    radiusPx: 12,
    from: null,
    hit: null,
    kinds: new Set(kinds),
    isSeen: () => true,
    ...more,
  });
  const first = (asked: SolidQuestion) => rankSnaps(solidSnaps([features], asked), 1e-6)[0] ?? null;

  it('are the doubles of the model', () => {
    expect(first(question({ x: E + 99, y: N, z: 50 }, snapKinds))).toMatchObject({
      kind: 'corner',
      point: { x: E + 100, y: N, z: 50 },
    });
    expect(first(question({ x: E + 50, y: N, z: 50 }, snapKinds))).toMatchObject({
      kind: 'edge middle',
      point: { x: E + 50, y: N, z: 50 },
    });
    expect(first(question({ x: E + 50, y: N + 30, z: 50 }, snapKinds))).toMatchObject({
      kind: 'face centre',
      point: { x: E + 50, y: N + 30, z: 50 },
      normal: { x: 0, y: 0, z: 1 },
    });
  });

  it('leave out what is covered or cut away', () => {
    const asked = question({ x: E + 100, y: N, z: 50 }, ['corner'], { isSeen: ({ z }) => z < 50 });
    expect(first(asked)).toBeNull();
  });

  it('find feet on faces and edges, and where edges seem to cross', () => {
    const hit = { point: { x: E + 20, y: N + 20, z: 50.0001 }, normal: { x: 0, y: 0, z: 1 } };
    const from = { x: E + 20.5, y: N + 19.5, z: 777 };
    expect(first(question(hit.point, ['perpendicular foot'], { hit, from }))).toMatchObject({
      point: { x: E + 20.5, y: N + 19.5, z: 50 },
    });
    const onFace = first(question(hit.point, ['foot on face'], { hit }))!;
    expect(onFace.point.z).toBeCloseTo(50, 9);
    // from above the lower edges lie under the upper ones
    const turned = { ...plan, orientation: aboutAxis({ x: 0.6, y: 0.8, z: 0 }, 0.7) };
    const far = featuresOf([box(E + 30, N - 20, -200)]);
    const kinds = new Set<SnapKind>(['apparent crossing']);
    let crossings = 0;
    for (let x = 0; x < 800; x += 10)
      for (let y = 0; y < 600; y += 10) {
        const asked = { ...question(E0, ['apparent crossing']), camera: turned, at: { x, y }, kinds };
        for (const { point } of solidSnaps([features, far], asked)) {
          crossings++;
          const onEdges = [features, far].some(({ edges }) => isOnEdge(edges, point));
          expect(onEdges).toBe(true);
        }
      }
    expect(crossings).toBeGreaterThan(0);
  });

  it('find the corner that trying all finds, on random clouds of triangles', () => {
    const random = seededRandom(3);
    for (let scene = 0; scene < 50; scene++) {
      const positions = Array.from({ length: 90 }, () => E + 200 * random());
      const cloud = featuresOf([{ positions, triangles: Array.from({ length: 30 }, (_, i) => i), edges: [] }]);
      const camera = {
        ...plan,
        target: { x: E + 100, y: E + 100, z: E + 100 },
        orientation: aboutAxis({ x: 0, y: 1, z: 0 }, random()),
      };
      const at = { x: 800 * random(), y: 600 * random() };
      let least = Infinity;
      let nearest: Vec3 | null = null;
      for (let i = 0; i < 90; i += 3) {
        const place = { x: positions[i]!, y: positions[i + 1]!, z: positions[i + 2]! };
        const seen = worldToScreen(camera, viewport, place);
        const distance = Math.hypot(seen.x - at.x, seen.y - at.y);
        if (distance < least) [least, nearest] = [distance, place];
      }
      const asked = { ...question(E0, ['corner']), camera, at, radiusPx: 5000 };
      expect(rankSnaps(solidSnaps([cloud], asked), 1e-9)[0]!.point).toEqual(nearest);
    }
  });
});

const E0 = { x: E, y: N, z: 0 };

function isOnEdge(edges: readonly number[], p: Vec3): boolean {
  for (let i = 0; i < edges.length; i += 6) {
    const a = { x: edges[i]!, y: edges[i + 1]!, z: edges[i + 2]! };
    const way = sub3({ x: edges[i + 3]!, y: edges[i + 4]!, z: edges[i + 5]! }, a);
    const out = sub3(p, a);
    const share = dot3(out, way) / dot3(way, way);
    const off = sub3(out, { x: way.x * share, y: way.y * share, z: way.z * share });
    if (share > -1e-9 && share < 1 + 1e-9 && Math.hypot(off.x, off.y, off.z) < 1e-4) return true;
  }
  return false;
}
