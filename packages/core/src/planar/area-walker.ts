import { ringArea, isInRing, withoutSpikes } from './rings.ts';
import { SegmentGrid } from './segment-grid.ts';

/** A place where the lines around an area don't meet. */
export interface Gap {
  readonly from: readonly [x: number, y: number];
  readonly to: readonly [x: number, y: number];
  readonly size: number;
}

export interface FloodSettings {
  /** Ends that come so near to each other or to a line meet. */
  readonly tolerance: number;
  /** Wider gaps are ignored. */
  readonly widestGap: number;
  /** Whether the time is up; asked for often. */
  readonly isOver?: () => boolean;
}

/** Ends a search whose time is up. */
export class TimeIsUp extends Error {}
/** So many steps are taken between two looks at the time. */
const STEPS_A_LOOK = 64;

/** So many dead ends are looked at for gaps, the nearest first. */
const MOST_DEAD_ENDS = 1500;
/** Not along an axis, where lines of drawings mostly lie. */
const RAY_RAD = 0.7123456789;

function isOn([x0, y0, x1, y1]: readonly number[], [x, y]: readonly [number, number], tolerance: number): boolean {
  const [ux, uy] = [x1! - x0!, y1! - y0!];
  const square = ux * ux + uy * uy;
  const share = square > 0 ? Math.min(Math.max(((x - x0!) * ux + (y - y0!) * uy) / square, 0), 1) : 0;
  return Math.hypot(x0! + share * ux - x, y0! + share * uy - y) <= 4 * tolerance;
}

/**
 * Whether a place lies on the border of a ring.
 * @param ring x, y pairs, not closed
 * @param tolerance drawing units
 */
export function isOnRing(ring: readonly number[], place: readonly [number, number], tolerance: number): boolean {
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    if (isOn([ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!], place, tolerance)) return true;
  }
  return false;
}

const isSame = (a: readonly number[], b: readonly number[] | null): boolean =>
  b !== null && a[0] === b[0] && a[1] === b[1];

interface Ray {
  readonly segment: number;
  /** 1 towards its end, −1 towards its beginning. */
  readonly way: 1 | -1;
}
/** A way with a place on it. */
interface Met {
  readonly ray: Ray;
  readonly x: number;
  readonly y: number;
}
const sideOf = (segment: number, way: Ray['way']): number => 2 * segment + (way === 1 ? 0 : 1);

/** Walks around areas of an arrangement of lines; its nodes are found on the way. */
export class AreaWalker {
  readonly #grid: SegmentGrid;
  /**
   * Where walks have passed, with the area to their left: by twice the segment, and one more for the way back, the
   * stretches along that way, from and to in turns.
   */
  readonly #passed = new Map<number, number[]>();

  /** Whether a walk has failed to come back: another tolerance may tell apart what this one doesn't. */
  isStuck = false;
  private readonly tolerance: number;
  readonly #isOver: () => boolean;
  #steps = 0;
  /** Farther than any line reaches; 0 before it is known. */
  #far = 0;

  constructor(
    private readonly p: Float64Array,
    { tolerance, isOver = () => false }: FloodSettings,
    grid = new SegmentGrid(p),
  ) {
    this.tolerance = tolerance;
    this.#isOver = isOver;
    this.#grid = grid;
  }

  #lookAtTime(): void {
    if (this.#steps++ % STEPS_A_LOOK === 0 && this.#isOver()) throw new TimeIsUp();
  }

  /** @returns null if nothing closed lies around the origin */
  face(): number[][] | null {
    const islands: number[][] = [];
    const outline = this.#outline(islands);
    return outline && [outline, ...this.#islands(outline, islands)];
  }

  /** @param met takes the islands that the ray meets on its way */
  #outline(met: number[][]): number[] | null {
    let [x, y] = [0, 0];
    // an island that the ray meets first is walked around, then the ray goes on from where it reaches farthest
    for (let islands = 0; islands <= this.#grid.count; islands++) {
      const [first] = this.#meet(x, y, 1);
      if (!first) return null;
      const ring = this.#walkFrom(first);
      if (!ring) return null;
      const outline = withoutSpikes(ring, this.tolerance);
      if (ringArea(outline) > 0 && isInRing(outline, 0, 0)) return outline;
      if (outline.length >= 6) met.push(outline);
      const [dx, dy] = [Math.cos(RAY_RAD), Math.sin(RAY_RAD)];
      let farthest = -Infinity;
      for (let i = 0; i < ring.length; i += 2) {
        const along = ring[i]! * dx + ring[i + 1]! * dy;
        if (along > farthest) [farthest, x, y] = [along, ring[i]!, ring[i + 1]!];
      }
      // a hair beyond, so that it isn't met again
      [x, y] = [x + 2 * this.tolerance * dx, y + 2 * this.tolerance * dy];
    }
    return null;
  }

  /**
   * The first segment on the ray, walked so that the ray's beginning is to the left; several where they lie upon each
   * other.
   * @param sign −1 for the ray the other way
   */
  #meet(x: number, y: number, sign: 1 | -1): readonly Met[] {
    const { p, tolerance } = this;
    const far = this.#reach();
    const [dx, dy] = [sign * far * Math.cos(RAY_RAD), sign * far * Math.sin(RAY_RAD)];
    const together = tolerance / far;
    let nearest = Infinity;
    let found: { readonly ray: Ray; readonly t: number }[] = [];
    const look = (segment: number): void => {
      const at = 4 * segment;
      const [ux, uy] = [p[at + 2]! - p[at]!, p[at + 3]! - p[at + 1]!];
      const turn = dx * uy - dy * ux;
      if (turn === 0) return;
      const [wx, wy] = [p[at]! - x, p[at + 1]! - y];
      const t = (wx * uy - wy * ux) / turn;
      const s = (wx * dy - wy * dx) / turn;
      if (t < 0 || s < 0 || s > 1 || t > nearest + together) return;
      // what crosses the ray from its right to its left has the beginning to its left
      const met = { ray: { segment, way: turn > 0 ? 1 : -1 } as const, t };
      if (t < nearest) {
        nearest = t;
        found = [met, ...found.filter((other) => other.t <= nearest + together)];
      } else found.push(met);
    };
    this.#grid.along(x, y, x + dx, y + dy, 0, look, (share) => share > nearest + 1e-6);
    return found.map(({ ray, t }) => ({ ray, x: x + t * dx, y: y + t * dy }));
  }

  #reach(): number {
    if (this.#far === 0) {
      let most = 1;
      for (let i = 0; i < this.p.length; i++) most = Math.max(most, Math.abs(this.p[i]!));
      this.#far = 4 * most;
    }
    return this.#far;
  }

  /** All the way around, beginning within a segment. @returns null if it never comes back */
  #walkFrom({ ray, x, y }: Met): number[] | null {
    const ring: number[] = [];
    let [now, share] = [ray, this.#shareAt(ray, x, y)];
    const begun = new Set<number>();
    for (;;) {
      this.#lookAtTime();
      const next = this.#nextNode(now, share);
      this.#pass(now, share, next.share);
      if (ring.length > 0 && this.#passes(now, share, next.share, ray, x, y)) return ring;
      // a walk may never return where ends and crossings are closer together than the tolerance
      const stretch = sideOf(now.segment, now.way) + share / 2;
      if (begun.has(stretch)) {
        this.isStuck = true;
        return null;
      }
      begun.add(stretch);
      ring.push(next.x, next.y);
      now = this.#turn(now, next.x, next.y);
      share = this.#shareAt(now, next.x, next.y);
    }
  }

  #pass({ segment, way }: Ray, from: number, to: number): void {
    const side = sideOf(segment, way);
    const known = this.#passed.get(side);
    if (known) known.push(from, to);
    else this.#passed.set(side, [from, to]);
  }

  /** Whether a walk has passed a place on a segment's side. */
  #isPassed(ray: Ray, x: number, y: number): boolean {
    const stretches = this.#passed.get(sideOf(ray.segment, ray.way));
    if (!stretches) return false;
    const share = this.#shareAt(ray, x, y);
    for (let i = 0; i < stretches.length; i += 2)
      if (share >= stretches[i]! - 1e-9 && share <= stretches[i + 1]! + 1e-9) return true;
    return false;
  }

  /** Whether a place lies on lines that a walk has passed. */
  #isOnPassed(x: number, y: number): boolean {
    const { p, tolerance } = this;
    let isOnOne = false;
    this.#grid.near(x, y, 4 * tolerance, (segment) => {
      const at = 4 * segment;
      if (isOnOne || !isOn([p[at]!, p[at + 1]!, p[at + 2]!, p[at + 3]!], [x, y], tolerance)) return;
      isOnOne = this.#isPassed({ segment, way: 1 }, x, y) || this.#isPassed({ segment, way: -1 }, x, y);
    });
    return isOnOne;
  }

  /** Whether a stretch of a way passes a place in the direction of another; lines may lie upon each other. */
  #passes(now: Ray, from: number, to: number, other: Ray, x: number, y: number): boolean {
    if (now.segment !== other.segment || now.way !== other.way) {
      const turn = Math.abs(this.#direction(now) - this.#direction(other));
      if (Math.min(turn, 2 * Math.PI - turn) > 1e-6) return false;
      const { p, tolerance } = this;
      const at = 4 * now.segment;
      if (!isOn([p[at]!, p[at + 1]!, p[at + 2]!, p[at + 3]!], [x, y], tolerance)) return false;
    }
    const place = this.#shareAt(now, x, y);
    return from < place && place <= to;
  }

  /** How far along a ray's way a place lies, 0 … 1. */
  #shareAt({ segment, way }: Ray, x: number, y: number): number {
    const { p } = this;
    const at = 4 * segment;
    const [ux, uy] = [p[at + 2]! - p[at]!, p[at + 3]! - p[at + 1]!];
    const square = ux * ux + uy * uy;
    const share = square > 0 ? ((x - p[at]!) * ux + (y - p[at + 1]!) * uy) / square : 0;
    return Math.min(Math.max(way === 1 ? share : 1 - share, 0), 1);
  }

  /** The next place on the way where another segment crosses, touches or ends; the segment's own end at last. */
  #nextNode(ray: Ray, from: number): { readonly x: number; readonly y: number; readonly share: number } {
    const { p, tolerance } = this;
    const at = 4 * ray.segment;
    const [x0, y0, x1, y1] =
      ray.way === 1 ? [p[at]!, p[at + 1]!, p[at + 2]!, p[at + 3]!] : [p[at + 2]!, p[at + 3]!, p[at]!, p[at + 1]!];
    const [ux, uy] = [x1 - x0, y1 - y0];
    const length = Math.hypot(ux, uy);
    const least = from + (2 * tolerance) / Math.max(length, tolerance);
    let [share, x, y] = [1, x1, y1];
    const take = (t: number, px: number, py: number): void => {
      if (t > least && t < share) [share, x, y] = [t, px, py];
    };
    const look = (other: number): void => {
      if (other === ray.segment) return;
      const o = 4 * other;
      let touches = false;
      for (const end of [o, o + 2]) {
        const [ex, ey] = [p[end]!, p[end + 1]!];
        const t = ((ex - x0) * ux + (ey - y0) * uy) / (length * length);
        const off = Math.abs((ex - x0) * uy - (ey - y0) * ux) / length;
        if (off > tolerance || t < 0 || t > 1) continue;
        touches = true;
        take(t, ex, ey);
      }
      if (touches) return;
      const [vx, vy] = [p[o + 2]! - p[o]!, p[o + 3]! - p[o + 1]!];
      const turn = ux * vy - uy * vx;
      if (turn === 0) return;
      const [wx, wy] = [p[o]! - x0, p[o + 1]! - y0];
      const t = (wx * vy - wy * vx) / turn;
      const s = (wx * uy - wy * ux) / turn;
      if (s >= 0 && s <= 1) take(t, x0 + t * ux, y0 + t * uy);
    };
    const [fx, fy] = [x0 + from * ux, y0 + from * uy];
    const rest = 1 - from;
    this.#grid.along(fx, fy, x1, y1, tolerance, look, (part) => from + part * rest > share + 1e-6);
    return { x, y, share };
  }

  /** At a node: the first way clockwise from where the walk has come from. A dead end leads back. */
  #turn(come: Ray, x: number, y: number): Ray {
    const back = this.#direction({ segment: come.segment, way: come.way === 1 ? -1 : 1 });
    let best: Ray = { segment: come.segment, way: come.way === 1 ? -1 : 1 };
    let least = 2 * Math.PI;
    this.#waysFrom(x, y, (ray, angle) => {
      if (ray.segment === come.segment && ray.way !== come.way) return;
      let turn = back - angle;
      while (turn <= 1e-9) turn += 2 * Math.PI;
      while (turn > 2 * Math.PI + 1e-9) turn -= 2 * Math.PI;
      // lines upon each other: the way back is the last that is taken
      if (turn > 2 * Math.PI - 1e-9) return;
      if (turn < least) [best, least] = [ray, turn];
    });
    return best;
  }

  #direction({ segment, way }: Ray): number {
    const { p } = this;
    const at = 4 * segment;
    return Math.atan2(way * (p[at + 3]! - p[at + 1]!), way * (p[at + 2]! - p[at]!));
  }

  /** All ways that lead on from a node. */
  #waysFrom(x: number, y: number, visit: (ray: Ray, angle: number) => void): void {
    const { p, tolerance } = this;
    this.#grid.near(x, y, 2 * tolerance, (segment) => {
      const at = 4 * segment;
      const [ux, uy] = [p[at + 2]! - p[at]!, p[at + 3]! - p[at + 1]!];
      const length = Math.hypot(ux, uy);
      if (length <= tolerance) return;
      const along = ((x - p[at]!) * ux + (y - p[at + 1]!) * uy) / length;
      const off = Math.abs((x - p[at]!) * uy - (y - p[at + 1]!) * ux) / length;
      if (off > 2 * tolerance || along < -2 * tolerance || along > length + 2 * tolerance) return;
      if (along < length - 2 * tolerance) visit({ segment, way: 1 }, this.#direction({ segment, way: 1 }));
      if (along > 2 * tolerance) visit({ segment, way: -1 }, this.#direction({ segment, way: -1 }));
    });
  }

  /** Rings around what lies within the outline without touching it. @param known those that were met already */
  #islands(outline: readonly number[], known: readonly number[][]): number[][] {
    const { p } = this;
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < outline.length; i += 2) {
      minX = Math.min(minX, outline[i]!);
      maxX = Math.max(maxX, outline[i]!);
      minY = Math.min(minY, outline[i + 1]!);
      maxY = Math.max(maxY, outline[i + 1]!);
    }
    const [dx, dy] = [Math.cos(RAY_RAD), Math.sin(RAY_RAD)];
    const along = (end: number): number => p[end]! * dx + p[end + 1]! * dy;
    const inside: { readonly segment: number; readonly end: number; readonly along: number }[] = [];
    for (let s = 0; s < this.#grid.count; s++) {
      const at = 4 * s;
      if (Math.max(p[at]!, p[at + 2]!) > maxX || Math.min(p[at]!, p[at + 2]!) < minX) continue;
      if (Math.max(p[at + 1]!, p[at + 3]!) > maxY || Math.min(p[at + 1]!, p[at + 3]!) < minY) continue;
      if (this.#passed.has(2 * s) || this.#passed.has(2 * s + 1)) continue;
      const end = along(at) <= along(at + 2) ? at : at + 2;
      inside.push({ segment: s, end, along: along(end) });
    }
    // what hangs together comes with its hindmost place first: what lies behind that has been walked around by then
    inside.sort((a, b) => a.along - b.along);
    const islands = [...known];
    for (const { segment, end } of inside) {
      this.#lookAtTime();
      if (this.#passed.has(2 * segment) || this.#passed.has(2 * segment + 1)) continue;
      const [x, y] = [p[end]!, p[end + 1]!];
      // it lies in the area if the next line behind it has the area on this side
      const behind = this.#meet(x - 2 * this.tolerance * dx, y - 2 * this.tolerance * dy, -1);
      if (!behind.some((met) => this.#isPassed(met.ray, met.x, met.y)) || this.#isOnPassed(x, y)) continue;
      const ring = this.#walkAround(x, y);
      if (!ring) continue;
      const bare = withoutSpikes(ring, this.tolerance);
      if (bare.length >= 6) islands.push(bare); // else mere lines
    }
    return islands;
  }

  /** Around what hangs together with its hindmost place on the ray's way, the outside to the left. */
  #walkAround(x: number, y: number): number[] | null {
    let first = null as Ray | null;
    let least = Infinity;
    this.#waysFrom(x, y, (ray, angle) => {
      let turn = RAY_RAD - Math.PI - angle;
      while (turn <= 1e-9) turn += 2 * Math.PI;
      if (turn < least) [first, least] = [ray, turn];
    });
    if (!first) return null;
    const ray = first;
    const share = this.#shareAt(ray, x, y);
    const middle = share + 1e-3 * (this.#nextNode(ray, share).share - share);
    const at = 4 * ray.segment;
    const along = ray.way === 1 ? middle : 1 - middle;
    return this.#walkFrom({
      ray,
      x: this.p[at]! + along * (this.p[at + 2]! - this.p[at]!),
      y: this.p[at + 1]! + along * (this.p[at + 3]! - this.p[at + 1]!),
    });
  }

  /** Dead ends with what they come nearest to, the narrowest gap first. */
  gaps(widest: number): Gap[] {
    const { p } = this;
    const ends: { x: number; y: number; segment: number; away: number }[] = [];
    for (let s = 0; s < this.#grid.count; s++)
      for (const end of [4 * s, 4 * s + 2]) {
        this.#lookAtTime();
        const [x, y] = [p[end]!, p[end + 1]!];
        let others = 0;
        this.#waysFrom(x, y, (ray) => {
          if (ray.segment !== s) others++;
        });
        if (others === 0) ends.push({ x, y, segment: s, away: x * x + y * y });
      }
    ends.sort((a, b) => a.away - b.away);
    const gaps: Gap[] = [];
    for (const { x, y, segment } of ends.slice(0, MOST_DEAD_ENDS)) {
      this.#lookAtTime();
      let size = widest;
      let to = null as readonly [number, number] | null;
      this.#grid.near(x, y, widest, (other) => {
        if (other === segment) return;
        const at = 4 * other;
        const [ux, uy] = [p[at + 2]! - p[at]!, p[at + 3]! - p[at + 1]!];
        const square = ux * ux + uy * uy;
        const share = square > 0 ? Math.min(Math.max(((x - p[at]!) * ux + (y - p[at + 1]!) * uy) / square, 0), 1) : 0;
        const [nx, ny] = [p[at]! + share * ux, p[at + 1]! + share * uy];
        // the lines that it hangs together with at its other end are no gap
        const own = [0, 1, 2, 3].map((k) => p[4 * segment + k]!);
        if (isOn(own, [nx, ny], this.tolerance)) return;
        const away = Math.hypot(nx - x, ny - y);
        if (away > this.tolerance && away < size) [size, to] = [away, [nx, ny]];
      });
      const isKnown = gaps.some(({ from, to: other }) => isSame(from, to) && isSame(other, [x, y]));
      if (to && !isKnown) gaps.push({ from: [x, y], to, size });
    }
    return gaps.sort((a, b) => a.size - b.size);
  }
}
