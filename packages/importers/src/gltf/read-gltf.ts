import type { Accessor, Material as GltfMaterial, Primitive } from '@gltf-transform/core';
import type { Layer } from '@gull-pane/core/drawing/model';
import type { KeptCamera, Material, SolidResult, SolidSink, TreeNode } from '@gull-pane/core/solid/solid-model';
import { VertexColours } from '../model/vertex-colours.ts';
import { ReadError } from '../read-error.ts';
import { Warnings } from '../warnings.ts';
import { evenTurn, isMirror, placedFromYUp } from '../y-up.ts';
import type { GltfJson } from './check-document.ts';
import { parseGltf, type GltfOptions, type ParsedGltf } from './gltf-document.ts';
import { clamp, colourOf } from './light.ts';
import { PrimitiveShapes, turnedOver, type Shape } from './primitive-shapes.ts';
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
/**
 * Reads a glTF 2.0 model (ISO/IEC 12113), binary or as JSON with its buffers inside. Objects are its nodes with a mesh,
 * layers the branches below the first fork of its tree. Lengths in metres with Y up become millimetres with Z up.
 * @throws ReadError with what is wrong and where
 */
export async function readGltf(bytes: Uint8Array, sink: SolidSink, options: GltfOptions): Promise<SolidResult> {
  return new SceneWalk(await parseGltf(bytes, options), sink, options).run();
}

class SceneWalk {
  readonly #warnings = new Warnings('line');
  readonly #layers: Layer[] = [];
  readonly #tree: TreeNode[] = [];
  readonly #cameras: KeptCamera[] = [];
  readonly #materials: Material[] = [];
  readonly #materialOf = new Map<GltfMaterial | null, number>();
  readonly #shapeReader: PrimitiveShapes;
  readonly #shapes = new Map<Primitive, Shape | null>();
  /** Layer of the objects that have no branch of their own. */
  #rest: number | null = null;
  #count = 0;
  #triangles = 0;
  #done = 0;
  readonly #nodes: number;
  readonly #meshes: readonly (readonly Primitive[])[];
  readonly #accessors: readonly Accessor[];
  private readonly json: GltfJson;

  constructor(
    parsed: ParsedGltf,
    private readonly sink: SolidSink,
    private readonly options: GltfOptions,
  ) {
    const { document, json, unreadPictures } = parsed;
    this.json = json;
    this.#shapeReader = new PrimitiveShapes(parsed, new VertexColours(this.#materials), this.#warnings);
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
    if (shape === undefined) this.#shapes.set(primitive, (shape = this.#shapeReader.of(primitive, this.#count - 1)));
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

/** Plain values that the source tells of an object. */
const factsOf = (extras: unknown): string[] =>
  Object.entries(extras ?? {}).flatMap(([name, value]) =>
    typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
      ? [`${name}: ${String(value)}`]
      : [],
  );
