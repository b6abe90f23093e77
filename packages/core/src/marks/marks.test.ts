import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { length3, sub3, type Vec3 } from '../geometry/vec.ts';
import { planeByFace, worldPlane } from '../plane/work-plane.ts';
import { markWays, movedBy, turnedAbout, withPoint } from './build.ts';
import { edited, heard, redone, startHistory, undone, type History } from './history.ts';
import { usualStyle, type Mark } from './mark.ts';
import { levelPath, placesOf, strokesOf } from './strokes.ts';

const [E, N] = [412_345_678.25, 7_208_234_567.5];
const at = (x: number, y: number, z = 0): Vec3 => ({ x: E + x, y: N + y, z });
const draw = (way: string, points: readonly Vec3[], plane = worldPlane): Mark => ({
  id: way,
  ...usualStyle,
  ...markWays.find(({ id }) => id === way)!.make(points, plane)!,
});
const placesIn = (mark: Mark): Vec3[] => strokesOf(mark).flatMap((stroke) => placesOf(stroke, 0.01).flat());

describe('marks', () => {
  it('are the same circle by centre, by two places, by three', () => {
    const circles = [
      draw('circle', [at(0, 0), at(50, 0)]),
      draw('circle-two', [at(-50, 0), at(50, 0)]),
      draw('circle-three', [at(0, 50), at(-50, 0), at(50, 0)]),
    ];
    for (const circle of circles) {
      expect(circle.kind).toBe('circle');
      for (const place of placesIn(circle)) expect(length3(sub3(place, at(0, 0)))).toBeCloseTo(50, 5);
    }
    expect(
      markWays.find(({ id }) => id === 'circle-three')!.make([at(0, 0), at(1, 1), at(2, 2)], worldPlane),
    ).toBeNull();
  });

  it('lead an arc from its first place through its second to its third', () => {
    const number = fc.integer({ min: -1000, max: 1000 });
    fc.assert(
      fc.property(number, number, number, number, (x1, y1, x2, y2) => {
        const points = [at(0, 0), at(x1, y1), at(x2, y2)];
        const way = markWays.find(({ id }) => id === 'arc')!.make(points, worldPlane);
        if (!way || Math.abs(x1 * y2 - y1 * x2) < 1000) return;
        const places = placesIn({ id: 'a', ...usualStyle, ...way });
        const away = (p: Vec3): number => Math.min(...places.map((place) => length3(sub3(place, p))));
        expect(length3(sub3(places[0]!, points[0]!))).toBeLessThan(1e-3);
        expect(length3(sub3(places.at(-1)!, points[2]!))).toBeLessThan(1e-3);
        const longest = Math.max(...places.slice(1).map((p, i) => length3(sub3(p, places[i]!))));
        expect(away(points[1]!)).toBeLessThanOrEqual(longest / 2 + 0.02);
      }),
    );
  });

  it('stand on any work plane', () => {
    const wall = planeByFace(at(0, 0, 100), { x: 1, y: 0, z: 0 });
    const box = draw('box', [at(0, 0, 100), at(0, 40, 130), at(25, 40, 130)], wall);
    const corners = new Set(placesIn(box).map(({ x, y, z }) => [x - E, y - N, z].map(Math.round).join()));
    expect(corners.size).toBe(8);
    expect(corners.has('25,40,130')).toBe(true);
    const rectangle = draw('rectangle', [at(0, 0, 100), at(0, 40, 130)], wall);
    expect(placesIn(rectangle).every(({ x }) => x === E)).toBe(true);
    expect(strokesOf(rectangle).map(levelPath)).toEqual([null]);
    const cylinder = draw('cylinder', [at(0, 0), at(10, 0), at(0, 0, 30)]);
    expect(Math.max(...placesIn(cylinder).map(({ z }) => z))).toBe(30);
  });

  it('give the doubles of their places to whoever snaps to them', () => {
    const { coords } = levelPath(strokesOf(draw('line', [at(1, 2), at(31, 42)]))[0]!)!;
    expect(Array.from(coords)).toEqual([E + 1, N + 2, E + 31, N + 42]);
  });

  it('draw clouds outwards, whichever corner comes first', () => {
    for (const corner of [at(100, 60), at(-100, 60), at(100, -60), at(-100, -60)]) {
      const places = placesIn(draw('cloud', [at(0, 0), corner]));
      const [x, y] = [corner.x - E, corner.y - N];
      const isOutside = places.every((p) => {
        const [u, v] = [(p.x - E) / x, (p.y - N) / y];
        return u < 1e-6 || u > 1 - 1e-6 || v < 1e-6 || v > 1 - 1e-6;
      });
      expect(isOutside).toBe(true);
    }
  });

  it('move, turn and follow their grips', () => {
    const circle = draw('circle', [at(0, 0), at(50, 0)]);
    expect(movedBy(circle, { x: 5, y: 6, z: 7 }).points).toEqual([at(5, 6, 7), at(55, 6, 7)]);
    expect(withPoint(circle, 0, at(10, 0)).points).toEqual([at(10, 0), at(60, 0)]);
    expect(withPoint(circle, 1, at(0, 80)).points).toEqual([at(0, 0), at(0, 80)]);
    const turned = turnedAbout(draw('rectangle', [at(0, 0), at(40, 20)]), at(0, 0), { x: 0, y: 0, z: 1 }, Math.PI / 2);
    const box = placesIn(turned);
    expect(Math.min(...box.map(({ x }) => x - E))).toBeCloseTo(-20, 6);
    expect(Math.max(...box.map(({ y }) => y - N))).toBeCloseTo(40, 6);
  });
});

describe('undo', () => {
  it('returns the exact state through 200 random edits, and redo the other', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const random = seededRandom(seed);
      const any = (most: number): number => Math.floor(random() * most);
      const first = Array.from({ length: 5 }, (_, i): Mark => ({
        ...draw('line', [at(i, 0), at(i, 9)]),
        id: `first ${i}`,
      }));
      let history: History = startHistory(first);
      const states: (readonly Mark[])[] = [history.marks];
      while (history.done.length < 200) {
        const { marks } = history;
        const chosen = marks.filter(() => random() < 0.3);
        const kind = any(5);
        const put =
          kind === 0
            ? [{ ...draw('rectangle', [at(any(99), 0), at(0, 1 + any(99))]), id: `new ${states.length}` }]
            : kind === 1
              ? chosen.map((mark) => movedBy(mark, { x: any(9), y: random(), z: 0 }))
              : kind === 2
                ? chosen.map((mark) => ({ ...mark, colour: '#00ff00', text: String(any(1000)) }))
                : kind === 3
                  ? chosen.map((mark) => turnedAbout(mark, at(0, 0), { x: 0, y: 0, z: 1 }, random()))
                  : [];
        const remove = kind === 4 ? chosen.slice(0, 2).map(({ id }) => id) : [];
        const next = edited(history, `edit ${states.length}`, { put, remove });
        if (next === history) continue;
        history = next;
        states.push(history.marks);
      }
      for (let k = 199; k >= 0; k--) {
        history = undone(history);
        expect(history.marks).toEqual(states[k]);
      }
      expect(history.marks).toEqual(first);
      expect(undone(history)).toBe(history);
      for (let k = 1; k <= 200; k++) {
        history = redone(history);
        expect(history.marks).toEqual(states[k]);
      }
    }
  });

  it('forgets what was undone with the next edit, and what others have changed', () => {
    const line = draw('line', [at(0, 0), at(1, 1)]);
    const other = { ...line, id: 'other' };
    let history = edited(edited(startHistory([]), 'line', { put: [line] }), 'other', { put: [other] });
    history = edited(undone(history), 'move', { put: [movedBy(line, at(0, 0))] });
    expect(redone(history)).toBe(history);
    history = heard(edited(history, 'other', { put: [other] }), { put: [{ ...line, colour: '#123456' }], remove: [] });
    expect(history.done.map(({ name }) => name)).toEqual(['other']);
    expect(undone(history).marks.map(({ id, colour }) => [id, colour])).toEqual([['line', '#123456']]);
  });
});
