import type { Material as GltfMaterial, Primitive } from '@gltf-transform/core';
import type { PointSet } from '@gull-pane/core/solid/solid-model';
import { LEFT_OUT, soundMesh } from '../model/sound-mesh.ts';
import { POINTS_LEFT_OUT, soundPoints } from '../model/sound-points.ts';
import { GATHERED, type VertexColours } from '../model/vertex-colours.ts';
import { ReadError } from '../read-error.ts';
import type { Warnings } from '../warnings.ts';
import type { ParsedGltf } from './gltf-document.ts';
import { channel, linear } from './light.ts';
import { coloursOnTriangles } from './surface-pictures.ts';

const TRIANGLE_MODES = { triangles: 4, strip: 5, fan: 6 };
const POINT_MODE = 0;
const LINE_MODES = { lines: 1, loop: 2, strip: 3 };

/** The triangles of a shape from one of its sides. */
export interface Side {
  readonly triangles: Uint32Array;
}

/** What a primitive holds, wherever it stands. */
export interface Shape {
  /** x, y, z a vertex, metres, Y up. */
  readonly local: Float64Array;
  readonly front: Side;
  /** Where it is mirrored; made when first asked for. */
  behind: Side | null;
  /** Of lines. */
  readonly edges: Uint32Array | null;
  /** The material of each triangle where vertices have colours. */
  readonly colours?: Uint32Array;
  /** Where every vertex is a point of its own. */
  readonly points?: PointSet;
}

/** The side that is seen where a shape is mirrored. */
export const turnedOver = ({ triangles }: Side): Side => ({
  triangles: triangles.map((_, i) => triangles[i % 3 === 0 ? i : i % 3 === 1 ? i + 1 : i - 1]!),
});

/** Takes from primitives what is drawn of them. */
export class PrimitiveShapes {
  readonly #worn: ParsedGltf['worn'];
  readonly #numberOf: ReadonlyMap<GltfMaterial, number>;

  constructor(
    { document, worn }: ParsedGltf,
    private readonly colours: VertexColours,
    private readonly warnings: Warnings,
  ) {
    this.#worn = worn;
    this.#numberOf = new Map(
      document
        .getRoot()
        .listMaterials()
        .map((material, index) => [material, index]),
    );
  }

  /**
   * What a primitive holds wherever it stands.
   * @param object number of the object that it was met in, from 0
   * @returns null if nothing of it can be drawn
   * @throws ReadError if it names vertices that it hasn't
   */
  of(primitive: Primitive, object: number): Shape | null {
    const accessor = primitive.getAttribute('POSITION');
    if (!accessor) return null;
    if (primitive.listTargets().length > 0)
      this.warnings.add('not-supported', 'shapes that change are shown as they begin', 0);
    const count = accessor.getCount();
    const indices = primitive.getIndices();
    const corners = new Uint32Array(indices ? indices.getCount() : count);
    for (let i = 0; i < corners.length; i++) corners[i] = indices ? indices.getScalar(i) : i;
    const local = new Float64Array(3 * count);
    const own: number[] = [0, 0, 0];
    for (let vertex = 0; vertex < count; vertex++) local.set(accessor.getElement(vertex, own), 3 * vertex);
    const mode = primitive.getMode();
    const isSolid = Object.values(TRIANGLE_MODES).includes(mode);
    if (mode === POINT_MODE) return this.#points(primitive, local, corners, object);
    if (!isSolid && !Object.values<number>(LINE_MODES).includes(mode)) {
      this.warnings.add('not-supported', `primitives of mode ${mode} are left out`, 0);
      return null;
    }
    if (isSolid) {
      const sound = soundMesh(local, triples(corners, mode));
      if (sound.leftOut > 0) this.warnings.add('not-a-number', LEFT_OUT, 0, sound.leftOut);
      if (sound.triangles.length === 0) return null;
      const colours = sound.leftOut > 0 ? null : this.#coloursOf(primitive, sound.triangles);
      return {
        local: sound.positions,
        front: { triangles: sound.triangles },
        behind: null,
        edges: null,
        ...(colours ? { colours } : {}),
      };
    }
    if (corners.some((corner) => corner >= count))
      throw new ReadError('damaged-file', `A line of object ${object} names a vertex beyond its ${count}.`);
    return { local, front: { triangles: new Uint32Array(0) }, behind: null, edges: pairs(corners, mode) };
  }

  /** @param chosen which vertices are points: all, unless the primitive has indices */
  #points(primitive: Primitive, all: Float64Array, chosen: Uint32Array, object: number): Shape | null {
    const told = this.#vertexColoursOf(primitive);
    const isAll = !primitive.getIndices();
    const of = <List extends Float64Array | Uint8Array>(list: List, own: List): List => {
      chosen.forEach((vertex, i) => own.set(list.subarray(3 * vertex, 3 * vertex + 3), 3 * i));
      return own;
    };
    if (chosen.some((vertex) => vertex >= all.length / 3))
      throw new ReadError('damaged-file', `A point of object ${object} is a vertex that isn't there.`);
    const { positions, colours, leftOut } = soundPoints(
      isAll ? all : of(all, new Float64Array(3 * chosen.length)),
      told && (isAll ? told : of(told, new Uint8Array(3 * chosen.length))),
    );
    if (leftOut > 0) this.warnings.add('not-a-number', POINTS_LEFT_OUT, 0, leftOut);
    if (positions.length === 0) return null;
    return {
      local: positions,
      front: { triangles: new Uint32Array(0) },
      behind: null,
      edges: null,
      points: { colours },
    };
  }

  /** Colours of vertices, red, green, blue, 0 … 255 in sRGB; these times that of the material (3.9.2). */
  #vertexColoursOf(primitive: Primitive): Uint8Array | null {
    const accessor = primitive.getAttribute('COLOR_0');
    if (!accessor) return null;
    const factor = primitive.getMaterial()?.getBaseColorFactor() ?? [1, 1, 1, 1];
    const count = accessor.getCount();
    const colours = new Uint8Array(3 * count);
    const own: number[] = [];
    for (let vertex = 0; vertex < count; vertex++) {
      accessor.getElement(vertex, own);
      for (let k = 0; k < 3; k++) colours[3 * vertex + k] = channel(own[k]! * factor[k]!);
    }
    return colours;
  }

  /** Materials of the triangles of a mesh whose vertices or pictures have colours. */
  #coloursOf(primitive: Primitive, triangles: Uint32Array): Uint32Array | null {
    const source = primitive.getMaterial();
    const factor = source?.getBaseColorFactor() ?? [1, 1, 1, 1];
    const worn = source ? this.#worn.get(this.#numberOf.get(source) ?? -1) : undefined;
    const places = worn && primitive.getAttribute(`TEXCOORD_${worn.set}`);
    if (places) {
      this.warnings.add('gathered', GATHERED, 0);
      const uv = new Float64Array(2 * places.getCount());
      for (let vertex = 0; vertex < places.getCount(); vertex++) uv.set(places.getElement(vertex, [0, 0]), 2 * vertex);
      const colours = coloursOnTriangles(worn, uv, triangles);
      return this.colours.ofTriangles(colours.map((value, i) => channel(linear(value / 255) * factor[i % 3]!)));
    }
    const colours = this.#vertexColoursOf(primitive);
    if (!colours) return null;
    this.warnings.add('gathered', GATHERED, 0);
    return this.colours.of(colours, triangles);
  }
}

function triples(corners: Uint32Array, mode: number): Uint32Array {
  if (mode === TRIANGLE_MODES.triangles) return corners.subarray(0, corners.length - (corners.length % 3));
  const all: number[] = [];
  const add = (a: number, b: number, c: number): number => all.push(a, b, c);
  const at = (i: number): number => corners[i]!;
  if (mode === TRIANGLE_MODES.strip)
    for (let i = 0; i + 2 < corners.length; i++) add(at(i), at(i + 1 + (i % 2)), at(i + 2 - (i % 2)));
  else for (let i = 1; i + 1 < corners.length; i++) add(at(0), at(i), at(i + 1));
  return Uint32Array.from(all);
}

function pairs(corners: Uint32Array, mode: number): Uint32Array {
  if (mode === LINE_MODES.lines) return corners.subarray(0, corners.length & ~1);
  const all: number[] = [];
  for (let i = 0; i + 1 < corners.length; i++) all.push(corners[i]!, corners[i + 1]!);
  if (mode === LINE_MODES.loop && corners.length > 1) all.push(corners.at(-1)!, corners[0]!);
  return Uint32Array.from(all);
}
