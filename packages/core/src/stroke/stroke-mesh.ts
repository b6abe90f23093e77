import { clipSegment, type Box2 } from '../geometry/clip.ts';
import { Growable } from '../geometry/growable.ts';
import type { StyleRun } from '../pyramid/tile-format.ts';

/** Lines as tiles hold them: pairs of vertices, one after the other along a polyline. */
export interface LineSource {
  /** x, y, z a vertex, drawing units relative to the tile's origin. */
  readonly positions: Float32Array;
  /** x, y a vertex: what single precision lost of the position; absent where nothing that could be seen. */
  readonly low: Float32Array | null;
  /** Length along the element at each vertex, drawing units. */
  readonly along: Float32Array;
  /** Two vertices a segment. */
  readonly lines: Uint32Array;
}

/** What clipping and re-anchoring adds to a source. */
export interface Placement {
  /** The tile's origin minus the anchor that the result shall be relative to, drawing units. */
  readonly shiftX: number;
  readonly shiftY: number;
  /** What of the result is wanted, relative to the anchor; null keeps everything. */
  readonly clip: Box2 | null;
}

/** Vertices that are ready for drawing, with the source vertex that tells style and object. */
export class MeshBuilder {
  /** x, y a vertex, relative to the anchor. */
  readonly positions = new Growable(Float32Array);
  /** How far each vertex is moved aside for a width of 2, x and y; lines without width have none. */
  readonly offsets = new Growable(Float32Array);
  readonly along = new Growable(Float32Array);
  readonly source = new Growable(Uint32Array);
  readonly indices = new Growable(Uint32Array);

  get vertices(): number {
    return this.source.length;
  }

  clear(): void {
    for (const column of [this.positions, this.offsets, this.along, this.source, this.indices]) column.clear();
  }

  add(x: number, y: number, offsetX: number, offsetY: number, along: number, source: number): number {
    this.positions.push(x);
    this.positions.push(y);
    this.offsets.push(offsetX);
    this.offsets.push(offsetY);
    this.along.push(along);
    this.source.push(source);
    return this.source.length - 1;
  }
}

/** SVG 2, 13.5.6: a corner sharper than this share of length to width is cut off. */
const MITRE_LIMIT = 4;

const xAt = (source: LineSource, placement: Placement, vertex: number): number =>
  placement.shiftX + source.positions[3 * vertex]! + (source.low ? source.low[2 * vertex]! : 0);
const yAt = (source: LineSource, placement: Placement, vertex: number): number =>
  placement.shiftY + source.positions[3 * vertex + 1]! + (source.low ? source.low[2 * vertex + 1]! : 0);

/** The segments of one run without width: two vertices each, clipped and re-anchored. */
export function buildHairlines(source: LineSource, run: StyleRun, placement: Placement, out: MeshBuilder): void {
  const { lines, along } = source;
  const share: [number, number] = [0, 1];
  for (let at = run.start; at < run.start + run.count; at += 2) {
    const [a, b] = [lines[at]!, lines[at + 1]!];
    const [x0, y0] = [xAt(source, placement, a), yAt(source, placement, a)];
    const [x1, y1] = [xAt(source, placement, b), yAt(source, placement, b)];
    share[0] = 0;
    share[1] = 1;
    if (placement.clip && !clipSegment(x0, y0, x1, y1, placement.clip, share)) continue;
    const way = along[b]! - along[a]!;
    for (const t of share)
      out.indices.push(out.add(x0 + (x1 - x0) * t, y0 + (y1 - y0) * t, 0, 0, along[a]! + way * t, a));
  }
}

/**
 * The segments of one run as triangles with width: butt ends, mitred corners, bevelled where they are too sharp. The
 * width itself is applied later (position + offset · width / 2), so that one mesh serves every scale.
 */
export function buildStrokes(source: LineSource, run: StyleRun, placement: Placement, out: MeshBuilder): void {
  const { lines } = source;
  const end = run.start + run.count;
  let chainStart = run.start;
  while (chainStart < end) {
    let chainEnd = chainStart + 2;
    while (chainEnd < end && lines[chainEnd] === lines[chainEnd - 1]) chainEnd += 2;
    strokeChain(source, chainStart, chainEnd, placement, out);
    chainStart = chainEnd;
  }
}

function strokeChain(source: LineSource, start: number, end: number, placement: Placement, out: MeshBuilder): void {
  const { lines, along } = source;
  const count = (end - start) >> 1;
  const x = (vertex: number): number => xAt(source, placement, vertex);
  const y = (vertex: number): number => yAt(source, placement, vertex);
  const first = lines[start]!;
  const last = lines[end - 1]!;
  const isRing = count > 2 && x(first) === x(last) && y(first) === y(last);
  // unit directions of the segments; one of no length takes that of its neighbour before
  const dirX = new Float64Array(count);
  const dirY = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const [a, b] = [lines[start + 2 * i]!, lines[start + 2 * i + 1]!];
    const [dx, dy] = [x(b) - x(a), y(b) - y(a)];
    const length = Math.hypot(dx, dy);
    dirX[i] = length > 0 ? dx / length : i > 0 ? dirX[i - 1]! : 1;
    dirY[i] = length > 0 ? dy / length : i > 0 ? dirY[i - 1]! : 0;
  }
  const share: [number, number] = [0, 1];
  for (let i = 0; i < count; i++) {
    const [a, b] = [lines[start + 2 * i]!, lines[start + 2 * i + 1]!];
    const [x0, y0, x1, y1] = [x(a), y(a), x(b), y(b)];
    share[0] = 0;
    share[1] = 1;
    if (placement.clip && !clipSegment(x0, y0, x1, y1, placement.clip, share)) continue;
    const [normalX, normalY] = [-dirY[i]!, dirX[i]!];
    const before = i > 0 ? i - 1 : isRing ? count - 1 : -1;
    const after = i + 1 < count ? i + 1 : isRing ? 0 : -1;
    const startMitre = share[0] === 0 && before >= 0 ? mitre(dirX, dirY, before, i) : null;
    const endMitre = share[1] === 1 && after >= 0 ? mitre(dirX, dirY, i, after) : null;
    const way = along[b]! - along[a]!;
    const corner = (t: number, sign: number, m: readonly [number, number] | null): number =>
      out.add(
        x0 + (x1 - x0) * t,
        y0 + (y1 - y0) * t,
        sign * (m ? m[0] : normalX),
        sign * (m ? m[1] : normalY),
        along[a]! + way * t,
        a,
      );
    const c0 = corner(share[0], 1, startMitre);
    const c1 = corner(share[0], -1, startMitre);
    const c2 = corner(share[1], 1, endMitre);
    const c3 = corner(share[1], -1, endMitre);
    out.indices.append([c0, c1, c2, c2, c1, c3]);
    if (share[1] === 1 && after >= 0 && !endMitre) {
      // bevel: the gap on the outer side of the corner
      const turn = dirX[i]! * dirY[after]! - dirY[i]! * dirX[after]!;
      const side = turn > 0 ? -1 : 1;
      const middle = out.add(x1, y1, 0, 0, along[b]!, a);
      const next = out.add(x1, y1, side * -dirY[after]!, side * dirX[after]!, along[b]!, a);
      out.indices.append([side > 0 ? c2 : c3, middle, next]);
    }
  }
}

/** The offset that both segments share at a corner; null if the corner is too sharp for one. */
function mitre(dirX: Float64Array, dirY: Float64Array, i: number, j: number): readonly [number, number] | null {
  const cosine = dirX[i]! * dirX[j]! + dirY[i]! * dirY[j]!; // of the turn between the normals
  // length of the mitre to the width is 1 / cos(half the turn); its square is 2 / (1 + cos)
  if (2 / (1 + cosine) > MITRE_LIMIT * MITRE_LIMIT || cosine <= -1) return null;
  const k = 1 / (1 + cosine);
  return [(-dirY[i]! - dirY[j]!) * k, (dirX[i]! + dirX[j]!) * k];
}
