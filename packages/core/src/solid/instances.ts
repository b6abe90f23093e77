import { quaternionOfAxes } from '../geometry/quaternion.ts';
import { PLACE, layoutOf } from './packed-shape.ts';
import type { KeptShape, PlacedKept } from './shape-packs.ts';
import type { TileExtras } from './solid-tile.ts';
import { ComponentType, Mode, type TileDocument } from './tile-document.ts';

/** A shape in one material, and where it stands. */
interface Group {
  readonly shape: KeptShape;
  readonly material: number;
  readonly objects: number[];
  readonly places: Float64Array[];
}

/** The shapes of packs that a tile shows. */
export class Instances {
  readonly #groups = new Map<KeptShape, Map<number, Group>>();

  add({ shape, place }: PlacedKept, object: number, material: number): void {
    let ofShape = this.#groups.get(shape);
    if (!ofShape) this.#groups.set(shape, (ofShape = new Map<number, Group>()));
    let group = ofShape.get(material);
    if (!group) ofShape.set(material, (group = { shape, material, objects: [], places: [] }));
    group.objects.push(object);
    group.places.push(place);
  }

  /** Something of every shape, as often as it stands. */
  total(count: (shape: KeptShape) => number): number {
    return this.#all().reduce((sum, { shape, objects }) => sum + objects.length * count(shape), 0);
  }

  /** Object and material of each place, and the places in doubles; nothing if there are none. */
  columns(): { readonly owners?: Uint32Array<ArrayBuffer>; readonly places?: Float64Array<ArrayBuffer> } {
    const groups = this.#all();
    if (groups.length === 0) return {};
    const owners = groups.flatMap(({ objects, material }) => objects.flatMap((object) => [object, material]));
    return { owners: Uint32Array.from(owners), places: joined(groups.flatMap(({ places }) => places)) };
  }

  /** Writes nodes with instances (EXT_mesh_gpu_instancing). @returns what the tile has to say of them beside */
  write(document: TileDocument): Pick<TileExtras, 'packs' | 'shapes'> {
    const groups = this.#all();
    if (groups.length === 0) return {};
    const packs: string[] = [];
    const shapes = groups.map(({ shape, objects }) => {
      let pack = packs.indexOf(shape.pack);
      if (pack < 0) pack = packs.push(shape.pack) - 1;
      const { at, vertices, corners, ends } = shape;
      return { pack, at, vertices, corners, ends, places: objects.length };
    });
    const attributesOf = placesOf(document, joined(groups.flatMap(({ places }) => places)));
    let first = 0;
    for (const { shape, material, objects } of groups) {
      document.node(document.mesh(primitivesOf(document, shape, material)), attributesOf(first, objects.length));
      first += objects.length;
    }
    return { packs, shapes };
  }

  #all(): Group[] {
    return [...this.#groups.values()].flatMap((ofShape) => [...ofShape.values()]);
  }
}

function joined(places: readonly Float64Array[]): Float64Array<ArrayBuffer> {
  const all = new Float64Array(PLACE * places.length);
  places.forEach((place, at) => all.set(place, PLACE * at));
  return all;
}

/** Surfaces and edges of a shape in its pack. */
function primitivesOf(document: TileDocument, shape: KeptShape, material: number): object[] {
  const { pack, at, vertices, corners, ends, reach, edgeReach } = shape;
  const bytes = layoutOf(shape);
  const primitives: object[] = [];
  const normals = { componentType: ComponentType.short, normalized: true, type: 'VEC3' } as const;
  const places = { componentType: ComponentType.float, type: 'VEC3' } as const;
  const [fromNormals, fromTriangles] = [at + bytes.positions, at + bytes.positions + bytes.normals];
  if (corners > 0) {
    const positions = document.viewOf(pack, at, bytes.positions, { stride: 12 });
    const directions = document.viewOf(pack, fromNormals, bytes.normals, { stride: 8 });
    const triangles = document.viewOf(pack, fromTriangles, bytes.triangles, { isIndices: true });
    const attributes = {
      POSITION: document.accessor(positions, { ...places, count: vertices, ...reach }),
      NORMAL: document.accessor(directions, { ...normals, count: vertices }),
    };
    const indices = document.accessor(triangles, {
      componentType: ComponentType.unsignedInt,
      count: corners,
      type: 'SCALAR',
    });
    primitives.push({ attributes, indices, mode: Mode.triangles, material });
  }
  if (ends > 0) {
    const fromEdges = fromTriangles + bytes.triangles;
    const positions = document.viewOf(pack, fromEdges, bytes.edgePositions, { stride: 12 });
    const faces = document.viewOf(pack, fromEdges + bytes.edgePositions, bytes.edgeNormals, { stride: 16 });
    const attributes = {
      POSITION: document.accessor(positions, { ...places, count: ends, ...edgeReach }),
      _FACE: document.accessor(faces, { ...normals, count: ends }),
      _OTHER: document.accessor(faces, { ...normals, count: ends, byteOffset: 8 }),
    };
    primitives.push({ attributes, mode: Mode.lines });
  }
  return primitives;
}

/** Writes places as glTF has them: shift, turn and size, Y up. @returns the attributes of some of them */
function placesOf(
  document: TileDocument,
  places: Float64Array,
): (first: number, count: number) => Readonly<Record<string, number>> {
  const all = places.length / PLACE;
  const [shifts, turns, sizes] = [new Float32Array(3 * all), new Float32Array(4 * all), new Float32Array(3 * all)];
  for (let k = 0; k < all; k++) {
    const m = places.subarray(PLACE * k, PLACE * (k + 1));
    const size = Math.hypot(m[0]!, m[3]!, m[6]!);
    const column = (i: number) => ({ x: m[i]! / size, y: m[i + 3]! / size, z: m[i + 6]! / size });
    const { x, y, z, w } = quaternionOfAxes(column(0), column(1), column(2));
    shifts.set([m[9]!, m[11]!, -m[10]!], 3 * k);
    turns.set([x, z, -y, w], 4 * k);
    sizes.fill(size, 3 * k, 3 * k + 3);
  }
  const [shiftView, turnView, sizeView] = [shifts, turns, sizes].map((list) => document.view(list, {})) as [
    number,
    number,
    number,
  ];
  const float = { componentType: ComponentType.float } as const;
  return (first, count) => ({
    TRANSLATION: document.accessor(shiftView, { ...float, type: 'VEC3', count, byteOffset: 12 * first }),
    ROTATION: document.accessor(turnView, { ...float, type: 'VEC4', count, byteOffset: 16 * first }),
    SCALE: document.accessor(sizeView, { ...float, type: 'VEC3', count, byteOffset: 12 * first }),
  });
}
