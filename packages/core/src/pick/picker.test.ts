import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { flattenPath } from '../drawing/flatten.ts';
import { PathBuilder, type Path } from '../drawing/path.ts';
import { clipSegment } from '../geometry/clip.ts';
import { seededRandom } from '../geometry/random.ts';
import { kindOf } from './kind-of.ts';
import { ShapeChunk, encodeShapes, type ObjectShape } from './object-chunk.ts';
import {
  OBJECTS_PER_CHUNK,
  ObjectIndex,
  Painted,
  decodeObjectColumns,
  encodeObjectColumns,
  type ObjectColumns,
} from './object-index.ts';
import { Picker } from './picker.ts';
import { boxAround, ownBox, toOwnAxes, type Region } from './region.ts';
import { lengthOf, touches } from './shape-tests.ts';

/** On the national grid, where the digits of a double run out first. */
const E = 412_600_000;
const N = 7_208_400_000;
const everything = (): boolean => true;

/** Points of a shape so close together that nothing fits between them here. */
function chordsOf(path: Path): number[] {
  const chords: number[] = [];
  let [x0, y0] = [0, 0];
  const line = (x: number, y: number): void => {
    chords.push(x0, y0, x, y);
    [x0, y0] = [x, y];
  };
  const move = (x: number, y: number): void => {
    [x0, y0] = [x, y];
  };
  flattenPath(path, { move, line, close: () => undefined }, { chordError: (size) => 1e-5 * size });
  return chords;
}

function randomScene(seed: number, count: number): ObjectShape[] {
  const random = seededRandom(seed);
  const at = (): number => random() * 1000;
  return Array.from({ length: count }, (_, index): ObjectShape => {
    const [x, y] = [E + at(), N + at()];
    const off = (): number => (random() - 0.5) * 120;
    const path = new PathBuilder().moveTo(x, y);
    const shape = index % 5;
    if (shape === 0) path.lineTo(x + off(), y + off());
    else if (shape === 1) path.cubicTo(x + off(), y + off(), x + off(), y + off(), x + off(), y + off());
    else if (shape === 2) path.quadraticTo(x + off(), y + off(), x + off(), y + off());
    else if (shape === 3) {
      const [ux, uy, vx, vy, startRad, sweepRad] = [off(), off(), off(), off(), random() * 6, (random() - 0.5) * 12];
      const on = (t: number): [number, number] => [
        x + ux * Math.cos(t) + vx * Math.sin(t),
        y + uy * Math.cos(t) + vy * Math.sin(t),
      ];
      const arc = new PathBuilder().moveTo(...on(startRad));
      arc.arcTo({ cx: x, cy: y, ux, uy, vx, vy, startRad, sweepRad }, ...on(startRad + sweepRad));
      return { painted: Painted.line, path: arc };
    } else {
      path.lineTo(x + off(), y + off()).lineTo(x + off(), y + off());
      path.lineTo(x + off(), y + off()).close();
      return { painted: Painted.fill | (index % 2 ? Painted.evenOdd : 0) | (index % 3 ? 0 : Painted.line), path };
    }
    return { painted: Painted.line, path };
  });
}

function indexOf(scene: readonly ObjectShape[]): ObjectIndex {
  const origin = { x: E + 500, y: N + 500 };
  const boxes = new Float32Array(4 * scene.length);
  scene.forEach(({ path }, i) => {
    const [xs, ys] = [0, 1].map((k) => chordsOf(path).filter((_, at) => at % 2 === k)) as [number[], number[]];
    const slack = 0.01; // the oracle's points miss a curve's extremes by less
    boxes.set(
      [
        Math.min(...xs) - origin.x - slack,
        Math.min(...ys) - origin.y - slack,
        Math.max(...xs) - origin.x + slack,
        Math.max(...ys) - origin.y + slack,
      ],
      4 * i,
    );
  });
  return new ObjectIndex({
    origin,
    boxes,
    halfWidths: new Float32Array(scene.length),
    objects: Uint32Array.from(scene, (_, i) => i),
    layers: new Uint16Array(scene.length),
    kinds: new Uint8Array(scene.length),
  });
}

function pickerOf(scene: readonly ObjectShape[]): Picker {
  const shapesOf = (chunk: number): Promise<readonly ObjectShape[]> =>
    Promise.resolve(scene.slice(chunk * OBJECTS_PER_CHUNK, (chunk + 1) * OBJECTS_PER_CHUNK));
  return new Picker(indexOf(scene), shapesOf);
}

const regionFrom = (x: number, y: number, w: number, h: number, angleRad: number): Region => ({
  middle: { x: E + x, y: N + y },
  right: angleRad === 0 ? { x: 1, y: 0 } : { x: Math.cos(angleRad), y: Math.sin(angleRad) },
  halfWidth: w,
  halfHeight: h,
});

/** Whether a place lies in an area, by the crossings of a ray: another rule than the product's. */
function isInArea({ path, painted }: ObjectShape, x: number, y: number): boolean {
  let [crossings, winding] = [0, 0];
  const chords = chordsOf(path);
  const [sx, sy] = [chords[0]!, chords[1]!];
  const ring = [...chords, ...chords.slice(-2), sx, sy];
  for (let i = 0; i < ring.length; i += 4) {
    const [x0, y0, x1, y1] = [ring[i]! - x, ring[i + 1]! - y, ring[i + 2]! - x, ring[i + 3]! - y];
    if (y0 > 0 === y1 > 0) continue;
    if (x0 + ((x1 - x0) * -y0) / (y1 - y0) <= 0) continue;
    crossings++;
    winding += y1 > y0 ? 1 : -1;
  }
  return painted & Painted.evenOdd ? crossings % 2 === 1 : winding !== 0;
}

const regions = fc.record({
  x: fc.integer({ min: -50, max: 1050 }),
  y: fc.integer({ min: -50, max: 1050 }),
  w: fc.integer({ min: 1, max: 400 }),
  h: fc.integer({ min: 1, max: 400 }),
  angle: fc.constantFrom(0, 0.3, Math.PI / 2, 2.5, -1),
  seed: fc.integer({ min: 1, max: 5 }),
});

describe('the picker, against going through everything', () => {
  const scenes = [1, 2, 3, 4, 5].map((seed) => randomScene(seed, 300));
  const pickers = scenes.map(pickerOf);

  it('what lies in a box wholly, and what it touches', async () => {
    await fc.assert(
      fc.asyncProperty(regions, async ({ x, y, w, h, angle, seed }) => {
        const region = regionFrom(x, y, w, h, angle);
        const { inside, touching } = await pickers[seed - 1]!.within(region, everything);
        const box = ownBox(region);
        const share: [number, number] = [0, 0];
        const expected = { inside: [] as number[], touching: [] as number[] };
        scenes[seed - 1]!.forEach((shape, entry) => {
          const own = toOwnAxes(region, shape);
          const chords = chordsOf(own.path);
          let [isInside, isTouched] = [true, false];
          for (let i = 0; i < chords.length; i += 4) {
            const [x0, y0, x1, y1] = chords.slice(i, i + 4) as [number, number, number, number];
            isTouched ||= clipSegment(x0, y0, x1, y1, box, share);
            isInside &&= [x0, x1].every((value) => Math.abs(value) <= w) && [y0, y1].every((v) => Math.abs(v) <= h);
          }
          if (!isTouched && shape.painted & Painted.fill) isTouched = isInArea(own, 0, 0);
          if (isInside) expected.inside.push(entry);
          if (isTouched) expected.touching.push(entry);
        });
        expect(inside.sort((a, b) => a - b)).toEqual(expected.inside);
        expect(touching.sort((a, b) => a - b)).toEqual(expected.touching);
      }),
      { numRuns: 40 },
    );
  });

  it('what is nearest, and what lies under the cursor', async () => {
    const places = fc.record({
      x: fc.double({ min: -400, max: 1400, noNaN: true }),
      y: fc.double({ min: -400, max: 1400, noNaN: true }),
      seed: fc.integer({ min: 1, max: 5 }),
    });
    await fc.assert(
      fc.asyncProperty(places, async ({ x, y, seed }) => {
        const place = { x: E + x, y: N + y };
        const distances = scenes[seed - 1]!.map((shape) => {
          const chords = chordsOf(shape.path);
          let best = Infinity;
          for (let i = 0; i < chords.length; i += 4) {
            const [x0, y0, dx, dy] = [
              chords[i]!,
              chords[i + 1]!,
              chords[i + 2]! - chords[i]!,
              chords[i + 3]! - chords[i + 1]!,
            ];
            const t = Math.min(Math.max(((place.x - x0) * dx + (place.y - y0) * dy) / (dx * dx + dy * dy || 1), 0), 1);
            best = Math.min(best, Math.hypot(x0 + dx * t - place.x, y0 + dy * t - place.y));
          }
          return best;
        });
        const nearest = await pickers[seed - 1]!.nearest(place, everything);
        expect(nearest!.distance).toBeCloseTo(Math.min(...distances), 1);
        const radius = 5;
        const hits = await pickers[seed - 1]!.at(place, radius, everything);
        const isUnsure = (entry: number): boolean => Math.abs(distances[entry]! - radius) < 0.01;
        const expected = scenes[seed - 1]!.flatMap((shape, entry) => {
          const isOnLine = shape.painted & Painted.line && distances[entry]! <= radius;
          return isOnLine || (shape.painted & Painted.fill && isInArea(shape, place.x, place.y)) ? [entry] : [];
        });
        const sure = (entries: number[]): number[] => entries.filter((entry) => !isUnsure(entry)).sort((a, b) => a - b);
        expect(sure(hits.map(({ entry }) => entry))).toEqual(sure(expected));
        const onLines = hits.filter(({ distance }) => distance > 0).map(({ distance }) => distance);
        expect([...onLines].sort((a, b) => a - b)).toEqual(onLines);
      }),
      { numRuns: 40 },
    );
  });

  it('what is nearest among more than are looked at, and asks no more files for it', async () => {
    // short lines side by side, each a little farther than the one before
    const scene = Array.from({ length: 12_000 }, (_, i): ObjectShape => {
      const path = new PathBuilder().moveTo(E + i / 1000, N).lineTo(E + i / 1000, N + 1);
      return { painted: Painted.line, path };
    });
    const asked = new Set<number>();
    const picker = new Picker(indexOf(scene), (chunk) => {
      asked.add(chunk);
      return Promise.resolve(scene.slice(chunk * OBJECTS_PER_CHUNK, (chunk + 1) * OBJECTS_PER_CHUNK));
    });
    const at = { x: E + 5.0004, y: N + 0.5 };
    const hits = await picker.at(at, 100, everything);
    expect(hits.slice(0, 3).map(({ entry }) => entry)).toEqual([5000, 5001, 4999]);
    expect(hits.length).toBeLessThan(scene.length / 2);
    expect(asked.size).toBeLessThan(8);
    const paths = await picker.pathsNear(at, 100, everything, 10);
    expect(paths.map(({ coords }) => Math.round(1000 * (coords[0]! - E)) - 5000)).toEqual([
      0, 1, -1, 2, -2, 3, -3, 4, -4, 5,
    ]);
  });

  it('whether anything is in sight, and hidden things are not', async () => {
    await fc.assert(
      fc.asyncProperty(regions, async ({ x, y, w, h, angle, seed }) => {
        const region = regionFrom(x, y, w / 20, h / 20, angle);
        const isShown = (entry: number): boolean => entry % 3 === 0;
        const { touching } = await pickers[seed - 1]!.within(region, isShown);
        expect(await pickers[seed - 1]!.isAnythingIn(region, isShown)).toBe(touching.length > 0);
        expect(touching.every(isShown)).toBe(true);
      }),
      { numRuns: 40 },
    );
  });

  it('the support of some objects is the hull of all their points', async () => {
    const picker = pickers[0]!;
    for (const step of [1, 7, 400]) {
      const entries = scenes[0]!.flatMap((_, entry) => (entry % step === 0 ? [entry] : []));
      const support = await picker.supportOf(entries);
      for (const angle of [0, 0.4, 1.2, 2, 3, 4.4, 5.5]) {
        const along = (px: number, py: number): number => (px - E) * Math.cos(angle) + (py - N) * Math.sin(angle);
        let exact = -Infinity;
        for (const entry of entries) {
          const chords = chordsOf(scenes[0]![entry]!.path);
          for (let i = 0; i < chords.length; i += 2) exact = Math.max(exact, along(chords[i]!, chords[i + 1]!));
        }
        let found = -Infinity;
        for (let i = 0; i < support.length; i += 3) found = Math.max(found, along(support[i]!, support[i + 1]!));
        expect(Math.abs(found - exact)).toBeLessThan(0.5); // curves’ own chords are that coarse
      }
    }
  });
});

describe('wide lines', () => {
  it('are seen beside their middle', async () => {
    const pipe = { painted: Painted.line, path: new PathBuilder().moveTo(E, N).lineTo(E + 1000, N) };
    const index = indexOf([pipe]);
    index.columns.halfWidths[0] = 50;
    const picker = new Picker(index, () => Promise.resolve([pipe]));
    const view = (north: number): Region => regionFrom(500, north, 10, 10, 0);
    expect(await picker.isAnythingIn(view(55), everything)).toBe(true);
    expect(await picker.isAnythingIn(view(65), everything)).toBe(false);
  });
});

describe('the files', () => {
  it('come back as they were written, and say where they are damaged', () => {
    const scene = randomScene(9, 40);
    const file = encodeShapes(scene);
    const shapes = new ShapeChunk(file);
    expect(shapes.length).toBe(scene.length);
    expect(shapes.at(scene.length)).toBeUndefined();
    // also where the bytes don't begin at a double's place
    const moved = new Uint8Array(file.length + 3);
    moved.set(file, 3);
    expect(new ShapeChunk(moved.subarray(3)).at(7)).toEqual(shapes.at(7));
    scene.forEach(({ painted, path }, i) => {
      expect(shapes.at(i)!.painted).toBe(painted);
      expect([...(shapes.at(i)!.path.coords as Float64Array)]).toEqual([...(path.coords as number[])]);
    });
    const columns = indexOf(scene).columns;
    const bytes = encodeObjectColumns(columns);
    const back: ObjectColumns = decodeObjectColumns(bytes);
    expect(back).toEqual(columns);
    expect(() => decodeObjectColumns(bytes.subarray(0, -1))).toThrow('bytes, expected');
    expect(() => new ShapeChunk(new Uint8Array(4))).toThrow('magic');
    expect(() => new ShapeChunk(file.subarray(0, -8))).toThrow('bytes, expected');
    file[16 + 4] = 200; // more steps than there are
    expect(() => new ShapeChunk(file)).toThrow('damaged');
  });
});

describe('what an object is called', () => {
  const path = (): PathBuilder => new PathBuilder().moveTo(0, 0);
  const turn = (sweepRad: number): PathBuilder =>
    path().arcTo({ cx: -1, cy: 0, ux: 1, uy: 0, vx: 0, vy: 1, startRad: 0, sweepRad }, 0, 0);
  it.each([
    ['line', path().lineTo(1, 0), Painted.line],
    ['polyline', path().lineTo(1, 0).lineTo(1, 1), Painted.line],
    ['outline', path().lineTo(1, 0).lineTo(1, 1).close(), Painted.line],
    ['outline', path().lineTo(1, 0).lineTo(1, 1).lineTo(0, 0), Painted.line],
    ['circle', turn(2 * Math.PI), Painted.line],
    ['arc', turn(1), Painted.line],
    ['curve', path().cubicTo(1, 1, 2, 1, 3, 0), Painted.line],
    ['area', path().lineTo(1, 0).lineTo(1, 1).close(), Painted.fill],
  ])('%s', (kind, drawn, painted) => expect(kindOf(drawn, painted)).toBe(kind));

  it('and how long it is', () => {
    expect(lengthOf({ painted: 1, path: turn(2 * Math.PI) })).toBeCloseTo(2 * Math.PI, 5);
    expect(lengthOf({ painted: 1, path: path().lineTo(3, 4) })).toBe(5);
  });
});

describe('touching', () => {
  it('counts an arc that only grazes a side, and a box within an area', () => {
    const graze: Region = regionFrom(0, 0, 10, 10, 0);
    const circle = { cx: E, cy: N + 15, ux: 5, uy: 0, vx: 0, vy: 5, startRad: 0, sweepRad: 2 * Math.PI };
    const ring = { painted: Painted.line, path: new PathBuilder().moveTo(E + 5, N + 15).arcTo(circle, E + 5, N + 15) };
    expect(touches(toOwnAxes(graze, ring), ownBox(graze))).toBe(true);
    const wide = new PathBuilder()
      .moveTo(E - 99, N - 99)
      .lineTo(E + 99, N - 99)
      .lineTo(E, N + 199)
      .close();
    expect(touches(toOwnAxes(graze, { painted: Painted.fill, path: wide }), ownBox(graze))).toBe(true);
    expect(touches(toOwnAxes(graze, { painted: Painted.line, path: wide }), ownBox(graze))).toBe(false);
    expect(boxAround(regionFrom(0, 0, 1, 1, Math.PI / 4)).maxX - E).toBeCloseTo(Math.SQRT2, 6);
  });
});
