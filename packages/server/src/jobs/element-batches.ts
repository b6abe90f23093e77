import type { FillRule, PathElement, PictureElement, TextElement } from '@gull-pane/core/drawing/model';
import { Growable } from '@gull-pane/core/geometry/growable';
import type { GeoJsonSink } from '@gull-pane/importers/geojson/geometry-drawer';

/** What isn't a bare path: few of many. `before` is the number of the batch's path that it comes before. */
type Other = { readonly before: number } & (
  | { readonly kind: 'text'; readonly element: TextElement }
  | { readonly kind: 'picture'; readonly element: PictureElement }
  | { readonly kind: 'facts'; readonly values: readonly string[] }
);

/** Elements of a drawing in their order, as columns that go from one thread to another without being copied. */
export interface ElementBatch {
  /** A row a path, see {@link ROW}. */
  readonly paths: Int32Array<ArrayBuffer>;
  readonly ops: Uint8Array<ArrayBuffer>;
  readonly coords: Float64Array<ArrayBuffer>;
  /** By the path's number in the batch: what the source says of it. */
  readonly told: ReadonlyMap<number, string>;
  readonly others: readonly Other[];
}

/** Layer, line style, fill style, 1 if even-odd, steps, coordinates. */
const ROW = 6;
/** A batch is handed on when it holds so many coordinates, or so many others. */
const MOST_COORDS = 1 << 17;
const MOST_OTHERS = 1 << 12;

/** Takes a reader's elements and hands them on in batches. */
export class BatchWriter implements GeoJsonSink {
  #paths = new Growable(Int32Array);
  #ops = new Growable(Uint8Array);
  #coords = new Growable(Float64Array);
  #told = new Map<number, string>();
  #others: Other[] = [];

  constructor(private readonly handOn: (batch: ElementBatch) => void) {}

  path({ layer, lineStyle, fillStyle, fillRule, path, told }: PathElement): void {
    const { ops, coords } = path;
    if (told !== undefined) this.#told.set(this.#paths.length / ROW, told);
    this.#paths.append([layer, lineStyle, fillStyle, fillRule === 'evenodd' ? 1 : 0, ops.length, coords.length]);
    this.#ops.append(ops);
    this.#coords.append(coords);
    if (this.#coords.length >= MOST_COORDS) this.flush();
  }

  text(element: TextElement): void {
    this.#other({ kind: 'text', element, before: this.#paths.length / ROW });
  }

  picture(element: PictureElement): void {
    this.#other({ kind: 'picture', element, before: this.#paths.length / ROW });
    this.flush(); // its bytes may be many
  }

  facts(values: readonly string[]): void {
    this.#other({ kind: 'facts', values, before: this.#paths.length / ROW });
  }

  /** Hands on what there is. */
  flush(): void {
    if (this.#paths.length === 0 && this.#others.length === 0) return;
    this.handOn({
      paths: this.#paths.view().slice(),
      ops: this.#ops.view().slice(),
      coords: this.#coords.view().slice(),
      told: this.#told,
      others: this.#others,
    });
    for (const column of [this.#paths, this.#ops, this.#coords]) column.clear();
    this.#told = new Map();
    this.#others = [];
  }

  #other(other: Other): void {
    this.#others.push(other);
    if (this.#others.length >= MOST_OTHERS) this.flush();
  }
}

/** Gives a batch's elements to a sink, as they came. */
export function giveBatch({ paths, ops, coords, told, others }: ElementBatch, sink: GeoJsonSink): void {
  let [op, coord, next] = [0, 0, 0];
  const giveOthers = (upTo: number): void => {
    for (; next < others.length && others[next]!.before <= upTo; next++) {
      const other = others[next]!;
      if (other.kind === 'text') sink.text(other.element);
      else if (other.kind === 'picture') sink.picture(other.element);
      else sink.facts?.(other.values);
    }
  };
  const count = paths.length / ROW;
  for (let index = 0; index < count; index++) {
    giveOthers(index);
    const at = ROW * index;
    const path = {
      ops: ops.subarray(op, (op += paths[at + 4]!)),
      coords: coords.subarray(coord, (coord += paths[at + 5]!)),
    };
    const fillRule: FillRule = paths[at + 3] === 1 ? 'evenodd' : 'nonzero';
    const said = told.get(index);
    sink.path({
      layer: paths[at]!,
      lineStyle: paths[at + 1]!,
      fillStyle: paths[at + 2]!,
      fillRule,
      path,
      ...(said === undefined ? {} : { told: said }),
    });
  }
  giveOthers(count);
}
