import { visitExtremes } from '@gull-pane/core/drawing/extents';
import type {
  DrawingSink,
  FillRule,
  PathElement,
  PictureElement,
  ReaderWarning,
  TextElement,
  TextMark,
} from '@gull-pane/core/drawing/model';
import { countSegments, transformPath } from '@gull-pane/core/drawing/path';
import { ringsOf } from '@gull-pane/core/drawing/rings';
import { triangulate } from '@gull-pane/core/drawing/triangulate';
import { textFrame } from '@gull-pane/core/drawing/letter-advance';
import { Growable } from '@gull-pane/core/geometry/growable';
import { HullBuilder } from '@gull-pane/core/geometry/hull';
import { Painted } from '@gull-pane/core/pick/object-index';
import { pictureBox } from '@gull-pane/core/pictures/picture-tiles';
import { ItemTable } from '@gull-pane/core/pyramid/items';
import { rectangle } from '@gull-pane/importers/clip-path';
import { packStyle } from './object-record.ts';
import type { ObjectWriter } from './object-writer.ts';
import type { PictureStore } from './picture-store.ts';

/** What one group of the source comes to. */
export class GroupTally {
  objects = 0;
  segments = 0;
  readonly hull = new HullBuilder();
}

/** By object: its exact box, how it is painted as bits of `Painted`, and one more than its line's style, or 0. */
export interface ObjectColumns {
  readonly boxes: Growable<Float64Array>;
  readonly painted: Growable<Uint8Array>;
  readonly lineStyles: Growable<Uint32Array>;
}

const emptyColumns = (): ObjectColumns => ({
  boxes: new Growable(Float64Array, 'shared'),
  painted: new Growable(Uint8Array, 'shared'),
  lineStyles: new Growable(Uint32Array),
});

export interface CollectedText {
  readonly objectId: number;
  readonly node: number;
  readonly mark: TextMark;
}

/** Takes a reader's elements and makes of them what the pyramid, the database and the object store need. */
export class Collector implements DrawingSink {
  readonly items = new ItemTable('shared');
  readonly texts: CollectedText[] = [];
  /** Properties of objects that can be looked for. */
  readonly known: { readonly objectId: number; readonly content: string }[] = [];
  /** By node of the layer tree. */
  readonly groups = new Map<number, GroupTally>();
  #objectColumns = emptyColumns();
  readonly box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  objects = 0;
  segments = 0;
  triangles = 0;
  #tangled = 0;
  /** Segments drawn in each line style, for the layers' colours. */
  readonly segmentsOfStyle = new Map<number, number>();

  constructor(
    private readonly objectWriter: ObjectWriter,
    private readonly pictures: PictureStore,
  ) {}

  path({ layer, lineStyle, fillStyle, fillRule, path, told }: PathElement): void {
    const object = this.objectWriter.addPath(path, layer, packStyle(lineStyle, fillStyle, fillRule));
    if (told !== undefined) this.objectWriter.tell(object, told);
    const group = this.#group(layer);
    const segments = countSegments(path);
    this.objects++;
    this.segments += segments;
    group.objects++;
    group.segments += segments;
    const style = lineStyle >= 0 ? lineStyle : fillStyle;
    this.segmentsOfStyle.set(style, (this.segmentsOfStyle.get(style) ?? 0) + segments);
    const own = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
    const { hull } = group;
    visitExtremes(path, (x, y) => {
      extend(own, x, y);
      hull.add(x, y);
    });
    extend(this.box, own.minX, own.minY);
    extend(this.box, own.maxX, own.maxY);
    const isEvenOdd = fillRule === 'evenodd' ? Painted.evenOdd : 0;
    const painted = (lineStyle >= 0 ? Painted.line : 0) | (fillStyle >= 0 ? Painted.fill | isEvenOdd : 0);
    this.#object([own.minX, own.minY, own.maxX, own.maxY], painted, lineStyle + 1);

    if (fillStyle >= 0) {
      const rings = ringsOf(path);
      for (const ring of rings) for (let i = 0; i < ring.length; i += 2) hull.add(ring[i]!, ring[i + 1]!);
      const xy = this.#triangles(rings, fillRule);
      if (!xy && lineStyle < 0) this.items.addPath(path, fillStyle, object);
      this.triangles += (xy?.length ?? 0) / 6;
      if (xy && xy.length > 0) this.items.addFill(path, fillRule, xy, fillStyle, object);
    }
    if (lineStyle < 0) return;
    // between the extremes curves reach farther out in slanting directions
    const onChord = fillStyle >= 0 ? undefined : (x: number, y: number): void => hull.add(x, y);
    this.items.addPath(path, lineStyle, object, onChord);
  }

  /** What else is known of the object that came last, as `name: value`. */
  facts(values: readonly string[]): void {
    const objectId = this.objects - 1;
    for (const content of values) this.known.push({ objectId, content });
  }

  text({ layer, style, mark, told }: TextElement): void {
    const object = this.objectWriter.addText(mark, layer, packStyle(style, -1, 'nonzero'));
    if (told !== undefined) this.objectWriter.tell(object, told);
    this.objects++;
    this.#group(layer).objects++;
    this.texts.push({ objectId: object, node: layer, mark });
    const [xs, ys] = [0, 1].map((k) => textFrame(mark).filter((_, i) => i % 2 === k)) as [number[], number[]];
    this.#object([Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)], Painted.fill, 0);
    this.items.addText(mark, style, object);
  }

  /** A picture is pointed at by its edge: what is drawn on it is meant elsewhere. */
  picture(element: PictureElement): void {
    const { minX, minY, maxX, maxY } = pictureBox(element);
    if (!(minX < maxX && minY < maxY)) return;
    const edge = transformPath(rectangle([0, 0, 1, 1]), element.place);
    const path = element.clip ? rectangle([minX, minY, maxX, maxY]) : edge;
    const object = this.objectWriter.addPath(path, element.layer);
    this.pictures.add(element, object);
    const group = this.#group(element.layer);
    this.objects++;
    group.objects++;
    for (let i = 0; i < path.coords.length; i += 2) group.hull.add(path.coords[i]!, path.coords[i + 1]!);
    extend(this.box, minX, minY);
    extend(this.box, maxX, maxY);
    this.#object([minX, minY, maxX, maxY], Painted.line | Painted.picture, 0);
  }

  /** Gives what is known of each object away: it isn't kept here. */
  takeObjectColumns(): ObjectColumns {
    const taken = this.#objectColumns;
    this.#objectColumns = emptyColumns();
    return taken;
  }

  #triangles(rings: readonly number[][], rule: FillRule): number[] | null {
    const triangles = triangulate(rings, rule);
    if (!triangles) this.#tangled++;
    return triangles;
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

  #object(box: readonly number[], painted: number, lineStyle: number): void {
    this.#objectColumns.boxes.append(box);
    this.#objectColumns.painted.push(painted);
    this.#objectColumns.lineStyles.push(lineStyle);
  }
}

function extend(box: { minX: number; minY: number; maxX: number; maxY: number }, x: number, y: number): void {
  if (x < box.minX) box.minX = x;
  if (x > box.maxX) box.maxX = x;
  if (y < box.minY) box.minY = y;
  if (y > box.maxY) box.maxY = y;
}
