import { cubicAt, quadraticAt, visitExtremes } from '@gull-pane/core/drawing/extents';
import { Op, PathBuilder, visitPath, type ArcShape, type Path } from '@gull-pane/core/drawing/path';
import { ringsOf } from '@gull-pane/core/drawing/rings';
import { clipRing, clipSegment, type Box2 } from '@gull-pane/core/geometry/clip';

/** How a path lies to a box. */
export function sideOf(path: Path, box: Box2): 'inside' | 'outside' | 'across' {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  visitExtremes(path, (x, y) => {
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  });
  if (minX >= box.minX && maxX <= box.maxX && minY >= box.minY && maxY <= box.maxY) return 'inside';
  return maxX < box.minX || minX > box.maxX || maxY < box.minY || minY > box.maxY ? 'outside' : 'across';
}

/** Where a step is looked at for crossings: each crossing is then found to the last digit by halving. */
const LOOKS = 64;
const HALVINGS = 60;

/** The parts of a path's lines that lie in a box. Curves stay curves: they are cut where they cross its sides. */
export function clipLines(path: Path, box: Box2): PathBuilder {
  const out = new PathBuilder();
  let isOn = false;
  const isInside = (x: number, y: number): boolean => x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY;
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
      const share: [number, number] = [0, 1];
      const isSeen = clipSegment(x0, y0, x, y, box, share);
      const at = (t: number) => (t === 1 ? ([x, y] as const) : ([x0 + (x - x0) * t, y0 + (y - y0) * t] as const));
      if (isSeen && !(isOn && share[0] === 0)) out.moveTo(...at(share[0]));
      if (isSeen) out.lineTo(...at(share[1]));
      isOn = isSeen && share[1] === 1;
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
export function clipArea(path: Path, box: Box2): PathBuilder {
  const out = new PathBuilder();
  for (const ring of ringsOf(path)) {
    const inside = clipRing(ring, box);
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
export function intersectClips(a: Box2 | null, b: Box2): Box2 {
  if (!a) return b;
  return {
    minX: Math.max(a.minX, b.minX),
    minY: Math.max(a.minY, b.minY),
    maxX: Math.min(a.maxX, b.maxX),
    maxY: Math.min(a.maxY, b.maxY),
  };
}

/**
 * Hands on what of a painted path lies in a clip.
 * @param styles of its lines and its area, −1 where it has none
 */
export function emitClipped(
  path: Path,
  clip: Box2 | null,
  { line, fill }: { readonly line: number; readonly fill: number },
  emit: (path: Path, line: number, fill: number) => void,
): void {
  const side = clip ? sideOf(path, clip) : 'inside';
  if (side === 'outside') return;
  const emitDrawn = (drawn: Path, ownLine: number, ownFill: number): void => {
    if (drawn.ops.length >= 2) emit(drawn, ownLine, ownFill);
  };
  if (side === 'inside' || !clip) {
    emitDrawn(path, line, fill);
    return;
  }
  if (fill >= 0) emitDrawn(clipArea(path, clip), -1, fill);
  if (line >= 0) emitDrawn(clipLines(path, clip), line, -1);
}
