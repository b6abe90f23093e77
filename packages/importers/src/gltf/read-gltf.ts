import type { Accessor, Material as GltfMaterial, Primitive } from '@gltf-transform/core';
import type { Colour, Layer } from '@gull-pane/core/drawing/model';
import type {
  KeptCamera,
  Material,
  PointSet,
  SolidResult,
  SolidSink,
  TreeNode,
} from '@gull-pane/core/solid/solid-model';
import { LEFT_OUT, soundMesh } from '../model/sound-mesh.ts';
import { POINTS_LEFT_OUT, soundPoints } from '../model/sound-points.ts';
import { GATHERED, VertexColours } from '../model/vertex-colours.ts';
import { ReadError } from '../read-error.ts';
import { Warnings } from '../warnings.ts';
import { evenTurn, isMirror, placedFromYUp } from '../y-up.ts';
import type { GltfJson } from './check-document.ts';
import { parseGltf, type GltfOptions, type ParsedGltf } from './gltf-document.ts';
import { coloursOnTriangles } from './surface-pictures.ts';
import {
  UNMOVED,
  cameraAt,
  ownMatrix,
  placement,
  product,
  topNodes,
  type GltfNode,
  type Matrix,
} from './scene-nodes.ts';

export type { GltfOptions } from './gltf-document.ts';

/** Single objects beyond so many layers don't get one of their own. */
const MOST_LAYERS = 1000;
/** Triangles that a model may have for each object that it may have. */
const TRIANGLES_PER_OBJECT = 4;
const TRIANGLE_MODES = { triangles: 4, strip: 5, fan: 6 };
const POINT_MODE = 0;
const LINE_MODES = { lines: 1, loop: 2, strip: 3 };

/**
 * Reads a glTF 2.0 model (ISO/IEC 12113), binary or as JSON with its buffers inside. Objects are its nodes with a mesh,
 * layers the branches below the first fork of its tree. Lengths in metres with Y up become millimetres with Z up.
 * @throws ReadError with what is wrong and where
 */
export async function readGltf(bytes: Uint8Array, sink: SolidSink, options: GltfOptions): Promise<SolidResult> {
  return new SceneWalk(await parseGltf(bytes, options), sink, options).run();
}

/** The triangles of a shape from one of its sides. */
interface Side {
  readonly triangles: Uint32Array;
}

/** What a primitive holds, wherever it stands. */
interface Shape {
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

const turnedOver = ({ triangles }: Side): Side => ({
  triangles: triangles.map((_, i) => triangles[i % 3 === 0 ? i : i % 3 === 1 ? i + 1 : i - 1]!),
});

class SceneWalk {
  readonly #warnings = new Warnings('line');
  readonly #layers: Layer[] = [];
  readonly #tree: TreeNode[] = [];
  readonly #cameras: KeptCamera[] = [];
  readonly #materials: Material[] = [];
  readonly #materialOf = new Map<GltfMaterial | null, number>();
  readonly #vertexColours = new VertexColours(this.#materials);
  readonly #shapes = new Map<Primitive, Shape | null>();
  /** Layer of the objects that have no branch of their own. */
  #rest: number | null = null;
  #count = 0;
  #triangles = 0;
  #done = 0;
  readonly #nodes: number;
  readonly #meshes: readonly (readonly Primitive[])[];
  readonly #accessors: readonly Accessor[];
  readonly #worn: ParsedGltf['worn'];
  readonly #numberOf: ReadonlyMap<GltfMaterial, number>;
  private readonly json: GltfJson;

  constructor(
    { document, json, worn, unreadPictures }: ParsedGltf,
    private readonly sink: SolidSink,
    private readonly options: GltfOptions,
  ) {
    this.json = json;
    this.#worn = worn;
    if (unreadPictures > 0)
      this.#warnings.add(
        'not-supported',
        'pictures that can’t be read are left out: surfaces have their plain colour',
        0,
      );
    this.#nodes = Math.max(json.nodes?.length ?? 0, 1);
    const root = document.getRoot();
    this.#meshes = root.listMeshes().map((mesh) => mesh.listPrimitives());
    this.#accessors = root.listAccessors();
    this.#numberOf = new Map(root.listMaterials().map((material, index) => [material, index]));
  }

  run(): SolidResult {
    const { json } = this;
    if ((json.animations ?? []).length > 0)
      this.#warnings.add('not-supported', 'movements are left out: everything stands where it begins', 0);
    // a stem of single nodes isn't a fork
    let [stem, fork, around] = [-1, topNodes(json), UNMOVED];
    for (let only = this.#onlyBranch(fork); only; only = this.#onlyBranch(fork)) {
      stem = this.#branch(only.name ?? '', stem);
      around = product(around, ownMatrix(only));
      fork = only.children!;
    }
    for (const index of fork) {
      const node = this.#node(index);
      // an eye is no part of the model
      if (node.mesh === undefined && !hasChildren(node)) this.#camera(node, product(around, ownMatrix(node)));
      else this.#visit(node, this.#layerOf(node), stem, around);
    }
    return {
      layers: this.#layers,
      materials: this.#materials,
      tree: this.#tree,
      cameras: this.#cameras,
      warnings: this.#warnings.list().map(({ code, message, count }) => ({ code, message, count })),
      frame: 'glTF 2.0 counts in metres with Y up: taken as millimetres with Z up',
    };
  }

  #node(index: number): GltfNode {
    return this.json.nodes![index]!;
  }

  /** The only node of a list if it merely carries others. */
  #onlyBranch(list: readonly number[]): GltfNode | null {
    const node = list.length === 1 ? this.#node(list[0]!) : null;
    return node && node.mesh === undefined && hasChildren(node) ? node : null;
  }

  /** A branch is a layer; where there are very many, those of a single object share one. */
  #layerOf(node: GltfNode): number {
    const count = this.#layers.length;
    if (count < MOST_LAYERS || hasChildren(node))
      return this.#layers.push({ name: node.name || `Part ${count + 1}` }) - 1;
    this.#rest ??= this.#layers.push({ name: 'Other objects' }) - 1;
    return this.#rest;
  }

  #branch(name: string, parent: number): number {
    this.#tree.push({ name, parent });
    return this.#tree.length - 1;
  }

  #visit(top: GltfNode, layer: number, stem: number, around: Matrix): void {
    // a list of what is still to do: trees may be deeper than the stack
    const waiting = [{ node: top, parent: stem, around }];
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const { node, parent } = next;
      const { children = [] } = node;
      const branch = children.length > 0 ? this.#branch(node.name ?? '', parent) : parent;
      const world = product(next.around, ownMatrix(node));
      for (let i = children.length - 1; i >= 0; i--)
        waiting.push({ node: this.#node(children[i]!), parent: branch, around: world });
      this.#camera(node, world);
      if (node.mesh !== undefined) this.#objects(node, node.mesh, layer, branch, world);
      this.options.onShare?.(++this.#done / this.#nodes);
    }
  }

  /** What stands at a node: its mesh, or as many as it has instances. */
  #objects(node: GltfNode, mesh: number, layer: number, branch: number, world: Matrix): void {
    if (node.skin !== undefined)
      this.#warnings.add('not-supported', 'skins that follow bones are left out: shapes are as they lie', 0);
    const name = node.name || this.json.meshes?.[mesh]?.name || '';
    const facts = factsOf(node.extras);
    const places = this.#instancesOf(node);
    if (!places) this.#object(name, mesh, layer, branch, world, facts);
    else
      places.forEach((place, i) => {
        this.#object(name && `${name} ${i + 1}`, mesh, layer, branch, product(world, place), facts);
      });
  }

  /** Where the instances of a node stand on it (EXT_mesh_gpu_instancing); null if it has none. */
  #instancesOf({ extensions }: GltfNode): Matrix[] | null {
    const attributes = extensions?.EXT_mesh_gpu_instancing?.attributes;
    if (!attributes) return null;
    const [shifts, turns, scales] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) =>
      attributes[name] === undefined ? undefined : this.#accessors[attributes[name]],
    );
    const count = Math.min(...[shifts, turns, scales].flatMap((accessor) => (accessor ? [accessor.getCount()] : [])));
    if (!Number.isFinite(count)) return null;
    const element = (accessor: Accessor | undefined, i: number): number[] | undefined => accessor?.getElement(i, []);
    return Array.from({ length: count }, (_, i) =>
      placement(element(shifts, i), element(turns, i), element(scales, i)),
    );
  }

  #object(name: string, mesh: number, layer: number, branch: number, world: Matrix, facts: readonly string[]): void {
    if (++this.#count > this.options.maxObjects)
      throw new ReadError(
        'limit-exceeded',
        `The model has more than ${this.options.maxObjects} objects (GULL_PANE_MAX_ELEMENTS).`,
      );
    const object = this.sink.object({ name: name || `Object ${this.#count}`, node: branch, layer, facts });
    for (const primitive of this.#meshes[mesh] ?? []) this.#part(primitive, object, world);
  }

  #part(primitive: Primitive, object: number, world: Matrix): void {
    let shape = this.#shapes.get(primitive);
    if (shape === undefined) this.#shapes.set(primitive, (shape = this.#shape(primitive)));
    if (!shape) return;
    const material = this.#material(primitive.getMaterial());
    const { local } = shape;
    const positions = placedFromYUp(
      local.length / 3,
      (vertex, to) => {
        to[0] = local[3 * vertex]!;
        to[1] = local[3 * vertex + 1]!;
        to[2] = local[3 * vertex + 2]!;
      },
      world,
    );
    if (!positions.every(Number.isFinite)) {
      this.#warnings.add('not-a-number', 'a mesh with coordinates that are no numbers is left out', 0);
      return;
    }
    const none = new Uint32Array(0);
    if (shape.points) {
      this.sink.part({ object, material, positions, triangles: none, points: shape.points });
      return;
    }
    if (shape.edges) {
      this.sink.part({ object, material, positions, triangles: none, edges: shape.edges });
      return;
    }
    const isTurnedOver = isMirror(world);
    const side = isTurnedOver ? (shape.behind ??= turnedOver(shape.front)) : shape.front;
    const { triangles } = side;
    this.#triangles += triangles.length / 3;
    const most = TRIANGLES_PER_OBJECT * this.options.maxObjects;
    if (this.#triangles > most)
      throw new ReadError(
        'limit-exceeded',
        `The model has more than ${most} triangles (four times GULL_PANE_MAX_ELEMENTS).`,
      );
    const turn = evenTurn(world);
    const { colours } = shape;
    this.sink.part({
      object,
      material: colours?.[0] ?? material,
      ...(colours ? { materials: colours } : {}),
      positions,
      triangles,
      ...(turn ? { shape: { key: side, turn } } : {}),
    });
  }

  /** What a primitive holds wherever it stands. @returns null if nothing of it can be drawn */
  #shape(primitive: Primitive): Shape | null {
    const accessor = primitive.getAttribute('POSITION');
    if (!accessor) return null;
    if (primitive.listTargets().length > 0)
      this.#warnings.add('not-supported', 'shapes that change are shown as they begin', 0);
    const count = accessor.getCount();
    const indices = primitive.getIndices();
    const corners = new Uint32Array(indices ? indices.getCount() : count);
    for (let i = 0; i < corners.length; i++) corners[i] = indices ? indices.getScalar(i) : i;
    const local = new Float64Array(3 * count);
    const own: number[] = [0, 0, 0];
    for (let vertex = 0; vertex < count; vertex++) local.set(accessor.getElement(vertex, own), 3 * vertex);
    const mode = primitive.getMode();
    const isSolid = Object.values(TRIANGLE_MODES).includes(mode);
    if (mode === POINT_MODE) return this.#points(primitive, local, corners);
    if (!isSolid && !Object.values<number>(LINE_MODES).includes(mode)) {
      this.#warnings.add('not-supported', `primitives of mode ${mode} are left out`, 0);
      return null;
    }
    if (isSolid) {
      const sound = soundMesh(local, triples(corners, mode));
      if (sound.leftOut > 0) this.#warnings.add('not-a-number', LEFT_OUT, 0, sound.leftOut);
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
      throw new ReadError('damaged-file', `A line of object ${this.#count - 1} names a vertex beyond its ${count}.`);
    return { local, front: { triangles: new Uint32Array(0) }, behind: null, edges: pairs(corners, mode) };
  }

  /** @param chosen which vertices are points: all, unless the primitive has indices */
  #points(primitive: Primitive, all: Float64Array, chosen: Uint32Array): Shape | null {
    const told = this.#vertexColoursOf(primitive);
    const isAll = !primitive.getIndices();
    const of = <List extends Float64Array | Uint8Array>(list: List, own: List): List => {
      chosen.forEach((vertex, i) => own.set(list.subarray(3 * vertex, 3 * vertex + 3), 3 * i));
      return own;
    };
    if (chosen.some((vertex) => vertex >= all.length / 3))
      throw new ReadError('damaged-file', `A point of object ${this.#count - 1} is a vertex that isn't there.`);
    const { positions, colours, leftOut } = soundPoints(
      isAll ? all : of(all, new Float64Array(3 * chosen.length)),
      told && (isAll ? told : of(told, new Uint8Array(3 * chosen.length))),
    );
    if (leftOut > 0) this.#warnings.add('not-a-number', POINTS_LEFT_OUT, 0, leftOut);
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
      this.#warnings.add('gathered', GATHERED, 0);
      const uv = new Float64Array(2 * places.getCount());
      for (let vertex = 0; vertex < places.getCount(); vertex++) uv.set(places.getElement(vertex, [0, 0]), 2 * vertex);
      const colours = coloursOnTriangles(worn, uv, triangles);
      return this.#vertexColours.ofTriangles(colours.map((value, i) => channel(linear(value / 255) * factor[i % 3]!)));
    }
    const colours = this.#vertexColoursOf(primitive);
    if (!colours) return null;
    this.#warnings.add('gathered', GATHERED, 0);
    return this.#vertexColours.of(colours, triangles);
  }

  #material(source: GltfMaterial | null): number {
    let index = this.#materialOf.get(source);
    if (index === undefined) {
      index = this.#materials.length;
      this.#materialOf.set(source, index);
      const isClear = source?.getAlphaMode() === 'BLEND';
      this.#materials.push({
        name: source?.getName() || 'Plain',
        colour: source ? colourOf(source.getBaseColorFactor(), isClear) : { r: 190, g: 194, b: 198, a: 255 },
        metalness: clamp(source?.getMetallicFactor() ?? 0),
        roughness: clamp(source?.getRoughnessFactor() ?? 0.8),
      });
    }
    return index;
  }

  #camera(node: GltfNode, world: Matrix): void {
    const camera = cameraAt(node, this.json, world, this.#cameras.length + 1);
    if (camera) this.#cameras.push(camera);
  }
}

const hasChildren = ({ children = [] }: GltfNode): boolean => children.length > 0;

const clamp = (share: number): number => Math.min(Math.max(Number.isFinite(share) ? share : 0, 0), 1);

/** A channel of linear light, 0 … 1, in sRGB, 0 … 255 (IEC 61966-2-1). */
function channel(light: number): number {
  const share = clamp(light);
  return Math.round(255 * (share <= 0.0031308 ? share * 12.92 : 1.055 * share ** (1 / 2.4) - 0.055));
}

/** A channel of sRGB, 0 … 1, as linear light. */
const linear = (share: number): number => (share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4);

const colourOf = ([r = 1, g = 1, b = 1, a = 1]: readonly number[], isClear: boolean): Colour => ({
  r: channel(r),
  g: channel(g),
  b: channel(b),
  a: isClear ? Math.round(255 * clamp(a)) : 255,
});

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

/** Plain values that the source tells of an object. */
const factsOf = (extras: unknown): string[] =>
  Object.entries(extras ?? {}).flatMap(([name, value]) =>
    typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
      ? [`${name}: ${String(value)}`]
      : [],
  );
