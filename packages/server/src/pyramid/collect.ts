import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { flattenPath } from '@gull-pane/core/drawing/flatten';
import type {
  DrawingSink,
  FillRule,
  PathElement,
  ReaderWarning,
  TextElement,
  TextMark,
} from '@gull-pane/core/drawing/model';
import { countSegments } from '@gull-pane/core/drawing/path';
import { HullBuilder } from '@gull-pane/core/geometry/hull';
import { ItemTable } from '@gull-pane/core/pyramid/items';
import type { ObjectWriter } from './object-store.ts';
import { expectedCrossings, triangulate } from './triangulate.ts';

/** An outline that crosses itself more often than this isn't filled: it would take for ever, and nobody could read it. */
const MAX_CROSSINGS = 100_000;

/** What one group of the source comes to. */
export class GroupTally {
  objects = 0;
  segments = 0;
  readonly hull = new HullBuilder();
}

export interface CollectedText {
  readonly objectId: number;
  readonly node: number;
  readonly mark: TextMark;
}

/** Takes a reader's elements and makes of them what the pyramid, the database and the object store need. */
export class Collector implements DrawingSink {
  readonly items = new ItemTable();
  readonly texts: CollectedText[] = [];
  /** By node of the layer tree. */
  readonly groups = new Map<number, GroupTally>();
  readonly box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  objects = 0;
  segments = 0;
  triangles = 0;
  #tangled = 0;
  /** Segments drawn in each line style, for the layers' colours. */
  readonly segmentsOfStyle = new Map<number, number>();

  constructor(private readonly objectWriter: ObjectWriter) {}

  path({ layer, lineStyle, fillStyle, fillRule, path }: PathElement): void {
    const object = this.objectWriter.addPath(path, layer);
    const group = this.#group(layer);
    const segments = countSegments(path);
    this.objects++;
    this.segments += segments;
    group.objects++;
    group.segments += segments;
    const style = lineStyle >= 0 ? lineStyle : fillStyle;
    this.segmentsOfStyle.set(style, (this.segmentsOfStyle.get(style) ?? 0) + segments);
    visitExtremes(path, (x, y) => {
      this.#extend(x, y);
      group.hull.add(x, y);
    });

    const rings: number[][] = [];
    flattenPath(path, {
      move: (x, y) => {
        rings.push([x, y]);
      },
      line: (x, y) => {
        const ring = rings.at(-1)!;
        ring.push(x, y);
        group.hull.add(x, y);
      },
      close: () => {
        const [x, y] = rings.at(-1)!;
        rings.push([x!, y!]); // what follows a close without a move begins there
      },
    });
    if (fillStyle >= 0) {
      const xy = this.#triangles(rings, fillRule);
      if (!xy && lineStyle < 0) this.items.addPath(path, fillStyle, object);
      this.triangles += (xy?.length ?? 0) / 6;
      if (xy && xy.length > 0) this.items.addTriangles(xy, fillStyle, object);
    }
    if (lineStyle >= 0) this.items.addPath(path, lineStyle, object);
  }

  text({ layer, style, mark }: TextElement): void {
    const object = this.objectWriter.addText(mark, layer);
    this.objects++;
    this.#group(layer).objects++;
    this.texts.push({ objectId: object, node: layer, mark });
    this.items.addText(mark, style, object);
  }

  #triangles(rings: readonly number[][], rule: FillRule): number[] | null {
    const usable = rings.map(withoutRepeat);
    if (expectedCrossings(usable) <= MAX_CROSSINGS) return triangulate(usable, rule);
    this.#tangled++;
    return null;
  }

  /** What was met that the reader could not know of. */
  get warnings(): ReaderWarning[] {
    if (this.#tangled === 0) return [];
    const message = 'an area whose outline crosses itself too often is drawn as its outline alone';
    return [{ code: 'not-supported', message, count: this.#tangled }];
  }

  #group(node: number): GroupTally {
    let group = this.groups.get(node);
    if (!group) this.groups.set(node, (group = new GroupTally()));
    return group;
  }

  #extend(x: number, y: number): void {
    const { box } = this;
    if (x < box.minX) box.minX = x;
    if (x > box.maxX) box.maxX = x;
    if (y < box.minY) box.minY = y;
    if (y > box.maxY) box.maxY = y;
  }
}

/** A ring without its first point repeated at the end. */
function withoutRepeat(ring: number[]): number[] {
  const n = ring.length;
  return n >= 4 && ring[0] === ring[n - 2] && ring[1] === ring[n - 1] ? ring.slice(0, -2) : ring;
}
