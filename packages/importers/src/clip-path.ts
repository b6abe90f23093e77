import { cubicAt, quadraticAt, visitExtremes } from '@gull-pane/core/drawing/extents';
import { ClipShape } from '@gull-pane/core/drawing/clip-shape';
import { intersectAreas } from '@gull-pane/core/drawing/intersect-areas';
import type { FillRule } from '@gull-pane/core/drawing/model';
import { Op, PathBuilder, visitPath, type ArcShape, type Path } from '@gull-pane/core/drawing/path';
import { ringsOf } from '@gull-pane/core/drawing/rings';
import { clipRing, clipSegment, type Box2 } from '@gull-pane/core/geometry/clip';

/** @returns the rectangle of two corners, given as x, y, x, y */
export const rectangle = ([x0 = 0, y0 = 0, x1 = 0, y1 = 0]: readonly number[]): PathBuilder =>
  new PathBuilder().moveTo(x0, y0).lineTo(x1, y0).lineTo(x1, y1).lineTo(x0, y1).close();

/** What may be seen: what lies in a box and in all of some shapes. */
export interface Clip {
  readonly box: Box2;
  /** Beside upright rectangles, which the box stands for. */
  readonly shapes: readonly ClipShape[];
}

/** A shape of more corners cuts as its box alone. */
const MOST_CORNERS = 20_000;

/** @returns a path's area as a clip; null if its outline is too intricate: then it is its box */
export function clipOf(path: Path, rule: FillRule): { readonly clip: Clip; readonly isWhole: boolean } {
  const box = uprightBox(path);
  if (box) return { clip: { box, shapes: [] }, isWhole: true };
  const shape = new ClipShape(
    ringsOf(path).filter((ring) => ring.length >= 6),
    rule,
  );
  const isWhole = shape.corners <= MOST_CORNERS;
  return { clip: { box: shape.box, shapes: isWhole ? [shape] : [] }, isWhole };
}

/** A clip that is an upright rectangle. */
export const boxClip = (box: Box2): Clip => ({ box, shapes: [] });

/** Whether a place may be seen; drawing units. */
export const isInClip = ({ box, shapes }: Clip, x: number, y: number): boolean =>
  x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY && shapes.every((shape) => shape.isInside(x, y));

type Side = 'inside' | 'outside' | 'across';

/** How a path lies to a box. */
function sideOf(path: Path, box: Box2): Side {
  const { minX, minY, maxX, maxY } = boxOf(path);
  if (minX >= box.minX && maxX <= box.maxX && minY >= box.minY && maxY <= box.maxY) return 'inside';
  return maxX < box.minX || minX > box.maxX || maxY < box.minY || minY > box.maxY ? 'outside' : 'across';
}

function boxOf(path: Path): Box2 {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  visitExtremes(path, (x, y) => {
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  });
  return { minX, minY, maxX, maxY };
}

/** Where a step is looked at for crossings: each crossing is then found to the last digit by halving. */
const LOOKS = 64;
const HALVINGS = 60;

/** What lines are cut by. */
interface Region {
  readonly isInside: (x: number, y: number) => boolean;
  /** The parts of a straight line that lie inside, as shares of its length: where each begins and ends, in turns. */
  readonly spans: (x0: number, y0: number, x1: number, y1: number) => readonly number[];
}

const boxRegion = (box: Box2): Region => ({
  isInside: (x, y) => x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY,
  spans: (x0, y0, x1, y1) => {
    const share: [number, number] = [0, 1];
    return clipSegment(x0, y0, x1, y1, box, share) ? share : [];
  },
});

/** The parts of a path's lines that lie in a region. Curves stay curves: they are cut where they cross its sides. */
function clipLines(path: Path, { isInside, spans }: Region): PathBuilder {
  const out = new PathBuilder();
  let isOn = false;
  const step = (at: (t: number) => readonly [number, number], draw: (t0: number, t1: number) => void): void => {
    const cuts = [0];
    const inside = (t: number): boolean => isInside(...at(t));
    for (let i = 0; i < LOOKS; i++) {
      let [low, high] = [i / LOOKS, (i + 1) / LOOKS];
      const before = inside(low);
      if (inside(high) === before) continue;
      for (let k = 0; k < HALVINGS; k++) {
        const middle = (low + high) / 2;
        if (inside(middle) === before) low = middle;
        else high = middle;
      }
      cuts.push(high);
    }
    cuts.push(1);
    for (let i = 1; i < cuts.length; i++) {
      const [t0, t1] = [cuts[i - 1]!, cuts[i]!];
      const isSeen = t1 > t0 && inside((t0 + t1) / 2);
      if (isSeen) {
        if (!isOn) out.moveTo(...at(t0));
        draw(t0, t1);
      }
      if (t1 > t0) isOn = isSeen && t1 === 1;
    }
  };
  visitPath(path, {
    move: () => {
      isOn = false;
    },
    line: (x0, y0, x, y) => {
      const at = (t: number) => (t === 1 ? ([x, y] as const) : ([x0 + (x - x0) * t, y0 + (y - y0) * t] as const));
      const seen = spans(x0, y0, x, y);
      for (let i = 0; i < seen.length; i += 2) {
        if (!(isOn && seen[i] === 0)) out.moveTo(...at(seen[i]!));
        out.lineTo(...at(seen[i + 1]!));
      }
      isOn = seen.length > 0 && seen.at(-1) === 1;
    },
    quadratic: (x0, y0, cx, cy, x, y) => {
      const at = (t: number) => [quadraticAt(x0, cx, x, t), quadraticAt(y0, cy, y, t)] as const;
      step(at, (t0, t1) => {
        const control = (a: number, c: number, b: number): number => blossom2(a, c, b, t0, t1);
        out.quadraticTo(control(x0, cx, x), control(y0, cy, y), ...at(t1));
      });
    },
    cubic: (x0, y0, ax, ay, bx, by, x, y) => {
      const at = (t: number) => [cubicAt(x0, ax, bx, x, t), cubicAt(y0, ay, by, y, t)] as const;
      step(at, (t0, t1) => {
        const control = (t: number) =>
          [blossom3(x0, ax, bx, x, t0, t, t1), blossom3(y0, ay, by, y, t0, t, t1)] as const;
        out.cubicTo(...control(t0), ...control(t1), ...at(t1));
      });
    },
    arc: (_x0, _y0, arc) => {
      const at = (t: number) => arcAt(arc, arc.startRad + arc.sweepRad * t);
      step(at, (t0, t1) => {
        const part = { startRad: arc.startRad + arc.sweepRad * t0, sweepRad: arc.sweepRad * (t1 - t0) };
        out.arcTo({ ...arc, ...part }, ...at(t1));
      });
    },
  });
  return out;
}

/** The part of a path's area that lies in a box, as polygons. */
function clipArea(path: Path, box: Box2): PathBuilder {
  return pathOfRings(ringsOf(path).map((ring) => clipRing(ring, box)));
}

function pathOfRings(rings: readonly (readonly number[])[]): PathBuilder {
  const out = new PathBuilder();
  for (const inside of rings) {
    for (let i = 0; i < inside.length; i += 2) {
      if (i === 0) out.moveTo(inside[0]!, inside[1]!);
      else out.lineTo(inside[i]!, inside[i + 1]!);
    }
    if (inside.length > 0) out.close();
  }
  return out;
}

const arcAt = ({ cx, cy, ux, uy, vx, vy }: ArcShape, t: number): readonly [number, number] => [
  cx + ux * Math.cos(t) + vx * Math.sin(t),
  cy + uy * Math.cos(t) + vy * Math.sin(t),
];
/** Polar forms of Bézier curves: control points of any part (L. Ramshaw, "Blossoming", 1987). */
const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
const blossom2 = (a: number, c: number, b: number, s: number, t: number): number => mix(mix(a, c, s), mix(c, b, s), t);
const blossom3 = (a: number, c: number, d: number, b: number, s: number, t: number, u: number): number =>
  mix(blossom2(a, c, d, s, t), blossom2(c, d, b, s, t), u);

/** @returns the box of a path that is one upright rectangle; null if it is anything else */
export function uprightBox({ ops, coords }: Path): Box2 | null {
  const corners: [number, number][] = [];
  for (let i = 0; i < coords.length; i += 2) corners.push([coords[i]!, coords[i + 1]!]);
  const isPolygon = Array.from(ops).every(
    (op, index) => op === (index === 0 ? Op.move : op === Op.close ? Op.close : Op.line),
  );
  const [first, last] = [corners[0], corners.at(-1)];
  if (corners.length === 5 && first![0] === last![0] && first![1] === last![1]) corners.pop();
  if (!isPolygon || corners.length !== 4) return null;
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  const box = { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
  const isCorner = ([x, y]: [number, number], next: [number, number]): boolean =>
    (x === box.minX || x === box.maxX) && (y === box.minY || y === box.maxY) && (x === next[0] || y === next[1]);
  return corners.every((corner, i) => isCorner(corner, corners[(i + 1) % 4]!)) ? box : null;
}

/** What lies in both; null is everything. */
export function intersectClips(a: Clip | null, b: Clip): Clip {
  if (!a) return b;
  return {
    box: {
      minX: Math.max(a.box.minX, b.box.minX),
      minY: Math.max(a.box.minY, b.box.minY),
      maxX: Math.min(a.box.maxX, b.box.maxX),
      maxY: Math.min(a.box.maxY, b.box.maxY),
    },
    shapes: [...a.shapes, ...b.shapes],
  };
}

/** A part of a path on its way out: its styles are −1 where it has none. */
interface Drawn {
  readonly path: Path;
  readonly line: number;
  readonly fill: number;
  readonly rule: FillRule;
}

/**
 * Hands on what of a painted path lies in a clip.
 * @param styles of its lines and its area, −1 where it has none, and how its area is filled
 * @returns whether an area was too intricate to be cut by a shape: then its part in the shape's box is handed on
 */
export function emitClipped(
  path: Path,
  clip: Clip | null,
  { line, fill, rule }: Omit<Drawn, 'path'>,
  emit: (drawn: Drawn) => void,
): boolean {
  let isWhole = true;
  const seen = clip ? partsInBox({ path, line, fill, rule }, clip.box) : [{ path, line, fill, rule }];
  const cut = (clip?.shapes ?? []).reduce<readonly Drawn[]>(
    (parts, shape) =>
      parts.flatMap((part) => {
        const own = partsInShape(part, shape);
        isWhole &&= own.isWhole;
        return own.parts;
      }),
    seen,
  );
  for (const part of cut) if (part.path.ops.length >= 2) emit(part);
  return isWhole;
}

function partsInBox(drawn: Drawn, box: Box2): Drawn[] {
  const { path, line, fill, rule } = drawn;
  const side = sideOf(path, box);
  if (side !== 'across') return side === 'inside' ? [drawn] : [];
  return [
    ...(fill >= 0 ? [{ path: clipArea(path, box), line: -1, fill, rule }] : []),
    ...(line >= 0 ? [{ path: clipLines(path, boxRegion(box)), line, fill: -1, rule }] : []),
  ];
}

function partsInShape(drawn: Drawn, shape: ClipShape): { readonly parts: Drawn[]; readonly isWhole: boolean } {
  const { path, line, fill, rule } = drawn;
  const side = sideOf(path, shape.box) === 'outside' ? 'outside' : shape.sideOf(boxOf(path));
  if (side !== 'across') return { parts: side === 'inside' ? [drawn] : [], isWhole: true };
  const parts: Drawn[] = [];
  let isWhole = true;
  if (fill >= 0) {
    const rings = ringsOf(path);
    const both = intersectAreas(rings, rule, shape.rings, shape.rule);
    isWhole = both !== null;
    if (both) parts.push({ path: pathOfRings(both), line: -1, fill, rule: 'nonzero' });
    else parts.push({ path: clipArea(path, shape.box), line: -1, fill, rule });
  }
  const region: Region = { isInside: (x, y) => shape.isInside(x, y), spans: (...ends) => shape.spans(...ends) };
  if (line >= 0) parts.push({ path: clipLines(path, region), line, fill: -1, rule });
  return { parts, isWhole };
}
