import { Growable } from '@gull-pane/core/geometry/growable';
import { HullBuilder3 } from '@gull-pane/core/geometry/hull-builder3';
import { hullCorners } from '@gull-pane/core/geometry/hull3';
import { SolidItems, coordinatesOf } from '@gull-pane/core/solid/solid-items';
import type { SolidObject, SolidPart, SolidSink } from '@gull-pane/core/solid/solid-model';
import type { ObjectWriter } from './object-writer.ts';

/** A part of more vertices has its own hull made first. */
const MANY_VERTICES = 4000;

/** What one layer comes to. */
class LayerTally {
  objects = 0;
  segments = 0;
  readonly hull = new HullBuilder3();
  /** Area of its surfaces by their material, square drawing units; edges count a little. */
  readonly areaOfMaterial = new Map<number, number>();
}

/** Takes a reader's objects and makes of them what the pyramid, the table of objects and the object store need. */
export class SolidCollector implements SolidSink {
  readonly items = new SolidItems();
  readonly objects: SolidObject[] = [];
  /** Least coordinates, then largest, of each object. */
  readonly boxes = new Growable(Float64Array);
  readonly trianglesOf: number[] = [];
  readonly pointsOf: number[] = [];
  readonly layers = new Map<number, LayerTally>();
  triangles = 0;
  segments = 0;
  points = 0;
  /** Triangles that have no area or were there already. */
  trianglesLeftOut = 0;
  #parts: SolidPart[] = [];
  /** Of shapes that stand at several places: the vertices that their hulls have as corners. */
  readonly #cornersOf = new WeakMap<object, ArrayLike<number>>();

  /** @param onObject called for each object and each of its parts */
  constructor(
    private readonly writer: ObjectWriter,
    private readonly onObject: () => void = () => undefined,
  ) {}

  object(object: SolidObject): number {
    this.finish();
    this.objects.push(object);
    this.boxes.append([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]);
    this.trianglesOf.push(0);
    this.pointsOf.push(0);
    this.#layer(object.layer).objects++;
    this.onObject();
    return this.objects.length - 1;
  }

  part(part: SolidPart): void {
    const { object, material } = part;
    this.onObject();
    const before = this.items.length;
    const triangles = this.items.add(part);
    this.trianglesLeftOut += part.triangles.length / 3 - triangles;
    if (this.items.length === before) return;
    this.#parts.push(part);
    const layer = this.#layer(this.objects[object]!.layer);
    const box = this.boxes.view().subarray(6 * object, 6 * object + 6);
    for (let item = before; item < this.items.length; item++) {
      const own = this.items.boxes.view().subarray(6 * item, 6 * item + 6);
      for (let k = 0; k < 3; k++) {
        box[k] = Math.min(box[k]!, own[k]!);
        box[k + 3] = Math.max(box[k + 3]!, own[k + 3]!);
      }
      const edges = this.items.edgeCountOf(item);
      this.segments += edges;
      layer.segments += edges;
    }
    if (!layer.hull.contains(box)) this.#reach(layer, part);
    this.triangles += triangles;
    this.trianglesOf[object]! += triangles;
    if (part.points) {
      this.points += part.positions.length / 3;
      this.pointsOf[object]! += part.positions.length / 3;
    }
    const area = areaOf(part) + Number.MIN_VALUE;
    layer.areaOfMaterial.set(material, (layer.areaOfMaterial.get(material) ?? 0) + area);
  }

  #reach({ hull }: LayerTally, part: SolidPart): void {
    const { positions, shape } = part;
    let corners: ArrayLike<number> | undefined = shape && this.#cornersOf.get(shape.key);
    if (!corners) {
      const used = usedVertices(part);
      // of many points it is quicker to find those that can be extreme all at once
      corners = shape || used.length > MANY_VERTICES ? cornersAmong(used, positions) : used;
      if (shape) this.#cornersOf.set(shape.key, corners);
    }
    if (corners.length > MANY_VERTICES) {
      hull.addCorners(coordinatesOf(positions, Uint32Array.from(corners)));
      return;
    }
    for (let i = 0; i < corners.length; i++) {
      const at = 3 * corners[i]!;
      hull.add(positions[at]!, positions[at + 1]!, positions[at + 2]!);
    }
  }

  /** Nothing more comes of the last object: its exact coordinates are kept. */
  finish(): void {
    const object = this.objects.at(-1);
    if (object) this.writer.addSolid(object, this.#parts);
    this.#parts = [];
  }

  #layer(number: number): LayerTally {
    let layer = this.layers.get(number);
    if (!layer) this.layers.set(number, (layer = new LayerTally()));
    return layer;
  }
}

/** Vertices that a triangle or an edge stands at; all where they are points. */
function usedVertices({ positions, triangles, points, edges = new Uint32Array(0) }: SolidPart): Uint32Array {
  if (points) return Uint32Array.from({ length: positions.length / 3 }, (_, vertex) => vertex);
  const isUsed = new Uint8Array(positions.length / 3);
  for (const list of [triangles, edges]) for (const vertex of list) isUsed[vertex] = 1;
  const used = new Uint32Array(isUsed.reduce((sum, is) => sum + is, 0));
  let at = 0;
  isUsed.forEach((is, vertex) => {
    if (is) used[at++] = vertex;
  });
  return used;
}

const cornersAmong = (vertices: Uint32Array, positions: Float64Array): number[] =>
  hullCorners(coordinatesOf(positions, vertices)).map((corner) => vertices[corner]!);

function areaOf({ positions: p, triangles }: SolidPart): number {
  let area = 0;
  for (let t = 0; t + 2 < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    area += Math.sqrt(x * x + y * y + z * z) / 2;
  }
  return area;
}
