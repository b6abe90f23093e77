import { clipRing, type Box2 } from '@gull-pane/core/geometry/clip';
import { Growable } from '@gull-pane/core/geometry/growable';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { StyleRun } from '@gull-pane/core/pyramid/tile-format';
import { MeshBuilder, buildHairlines, buildStrokes } from '@gull-pane/core/stroke/stroke-mesh';
import { flatKinds, type DrawLists, type FlatKind } from './batch/draw-lists';
import { FlatBlock, type BlockPart } from './batch/flat-block';
import type { FillBody, FillContent } from './fill-body';
import { builtColumns, type LineBody } from './line-body';
import type { LineLook } from './view-rules';

/** A tile with the forms of its lines and areas that are to be drawn. */
export interface NearTile {
  readonly origin: Vec3;
  readonly body: LineBody;
  readonly fills: FillBody;
}

/** What the parts near a view depend on. */
export interface NearView {
  /** Middle of the view, drawing units. */
  readonly middle: Vec3;
  /** What is wanted about it reaches so far to all sides. */
  readonly reach: number;
  /** Whether it is a part of a pane: what lies near the others may be drawn as well. */
  readonly isPart: boolean;
  /** If any of this differs, styles may look different. */
  readonly looks: readonly unknown[];
  readonly lookOf: (style: number) => LineLook;
}

/** Cut out for so many times what a view wants, so that it can be panned before anything is cut out anew. */
const TIMES_VIEW = 2;

/** What was cut out last. */
interface CutOut {
  readonly tiles: readonly NearTile[];
  readonly middle: Vec3;
  readonly reach: number;
  readonly looks: readonly unknown[];
  readonly block: FlatBlock;
  /** Where the indices of each kind begin in the block, and how many they are. */
  readonly ranges: ReadonlyMap<FlatKind, { readonly start: number; readonly count: number }>;
}

/**
 * The parts near the view of tiles that are much larger than it. Their vertices are too coarse in single precision and
 * mostly out of sight: they are clipped in doubles and placed about the middle of a view, again where that has moved away.
 */
export class NearGeometry {
  #cutOut: CutOut | null = null;
  segments = 0;
  triangles = 0;

  /** Adds what is near a view to what is drawn together. */
  list(lists: DrawLists, tiles: readonly NearTile[], view: NearView): void {
    if (tiles.length === 0) {
      this.segments = this.triangles = 0;
      return;
    }
    const before = this.#cutOut;
    if (!before || !holds(before, tiles, view)) {
      const others = before && view.isPart && looksSame(before, view) ? before.tiles : [];
      this.#cut([...tiles, ...others.filter((other) => !isAmong(tiles, other))], view);
    }
    const { block, ranges } = this.#cutOut!;
    for (const [kind, { start, count }] of ranges) lists.add(kind, block, start, count);
    const count = (kind: FlatKind): number => ranges.get(kind)?.count ?? 0;
    this.segments = (count('hairline') + count('dashedHairline')) / 2 + (count('stroke') + count('dashedStroke')) / 6;
    this.triangles = count('fill') / 3;
  }

  dispose(): void {
    this.#cutOut?.block.dispose();
    this.#cutOut = null;
    this.segments = this.triangles = 0;
  }

  #cut(tiles: readonly NearTile[], { middle, reach: wanted, looks, lookOf }: NearView): void {
    this.dispose();
    const reach = TIMES_VIEW * wanted;
    const clip = { minX: -reach, minY: -reach, maxX: reach, maxY: reach };
    const columns = new Map(flatKinds.map((kind) => [kind, new Columns()] as const));
    for (const { origin, body, fills } of tiles) {
      const placement = { shiftX: origin.x - middle.x, shiftY: origin.y - middle.y, clip };
      for (const run of body.content.lineRuns) {
        const look = lookOf(run.style);
        if (look === 'hidden' || !reaches(run, placement)) continue;
        const build = look === 'hairline' || look === 'dashedHairline' ? buildHairlines : buildStrokes;
        const own = columns.get(look)!;
        build(body.source, run, placement, own.builder);
        own.take(body.content.styles, body.orders);
      }
      const own = columns.get('fill')!;
      for (const run of fills.content.triangleRuns) {
        if (lookOf(run.style) === 'hidden') continue;
        clipTriangles(fills.content, run, placement, own.builder);
        own.take(fills.content.styles, fills.orders);
      }
    }
    const parts = flatKinds.map((kind) => columns.get(kind)!.part());
    const block = new FlatBlock(middle, parts);
    const ranges = new Map(
      flatKinds.map((kind, k) => [kind, { start: block.starts[k]!, count: parts[k]!.indices[0]!.length }] as const),
    );
    this.#cutOut = { tiles, middle, reach, looks, block, ranges };
  }
}

/** Whether what was cut out is all that a view wants. */
function holds(cutOut: CutOut, tiles: readonly NearTile[], view: NearView): boolean {
  const { middle, reach, isPart } = view;
  const away = Math.max(Math.abs(middle.x - cutOut.middle.x), Math.abs(middle.y - cutOut.middle.y));
  return (
    away + reach <= cutOut.reach &&
    looksSame(cutOut, view) &&
    (isPart || tiles.length === cutOut.tiles.length) &&
    tiles.every((tile) => isAmong(cutOut.tiles, tile))
  );
}

const looksSame = ({ looks }: CutOut, view: NearView): boolean =>
  looks.length === view.looks.length && looks.every((look, k) => look === view.looks[k]);

const isAmong = (tiles: readonly NearTile[], { body, fills }: NearTile): boolean =>
  tiles.some((one) => one.body === body && one.fills === fills);

const reaches = (
  { minX, minY, maxX, maxY }: Box2,
  { shiftX, shiftY, clip }: { shiftX: number; shiftY: number; clip: Box2 },
): boolean =>
  minX + shiftX <= clip.maxX && maxX + shiftX >= clip.minX && minY + shiftY <= clip.maxY && maxY + shiftY >= clip.minY;

/** Built vertices with their style and order, gathered over several tiles. */
class Columns {
  readonly builder = new MeshBuilder();
  readonly #styles = new Growable(Uint16Array);
  readonly #orders = new Growable(Float32Array);

  /** Takes over style and order of the vertices that were built since the last call. */
  take(styles: Uint16Array, orders: Float32Array): void {
    const { source } = this.builder;
    for (let i = this.#styles.length; i < source.length; i++) {
      this.#styles.push(styles[source.at(i)]!);
      this.#orders.push(orders[source.at(i)]!);
    }
  }

  part(): BlockPart {
    const { columns, indices } = builtColumns(this.builder, this.#styles.view().slice(), this.#orders.view().slice());
    return { columns, indices: [indices] };
  }
}

function clipTriangles(
  { positions, low, triangles }: FillContent,
  run: StyleRun,
  { shiftX, shiftY, clip }: { shiftX: number; shiftY: number; clip: Box2 },
  out: MeshBuilder,
): void {
  for (let at = run.start; at < run.start + run.count; at += 3) {
    const ring: number[] = [];
    for (let corner = 0; corner < 3; corner++) {
      const vertex = triangles[at + corner]!;
      const [lowX, lowY] = low ? [low[2 * vertex]!, low[2 * vertex + 1]!] : [0, 0];
      ring.push(shiftX + positions[3 * vertex]! + lowX, shiftY + positions[3 * vertex + 1]! + lowY);
    }
    const inside = clipRing(ring, clip);
    const source = triangles[at]!;
    const first = out.vertices;
    for (let i = 0; i < inside.length; i += 2) out.add(inside[i]!, inside[i + 1]!, 0, 0, 0, source);
    for (let i = 2; 2 * i < inside.length; i++) out.indices.append([first, first + i - 1, first + i]);
  }
}
