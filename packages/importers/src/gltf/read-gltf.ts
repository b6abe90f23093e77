import type { Document, Material as GltfMaterial, Node, Primitive } from '@gltf-transform/core';
import type { Colour, Layer } from '@gull-pane/core/drawing/model';
import { multiply, aboutAxis } from '@gull-pane/core/geometry/quaternion';
import type { KeptCamera, Material, SolidResult, SolidSink, TreeNode } from '@gull-pane/core/solid/solid-model';
import { LEFT_OUT, soundMesh } from '../model/sound-mesh.ts';
import { ReadError } from '../read-error.ts';
import { Warnings } from '../warnings.ts';
import { evenTurn, isMirror, placedFromYUp } from '../y-up.ts';
import type { GltfJson } from './check-document.ts';
import { parseGltf, type GltfOptions } from './gltf-document.ts';

export type { GltfOptions } from './gltf-document.ts';

/** glTF counts in metres. */
const MM = 1000;
/** Triangles that a model may have for each object that it may have. */
const TRIANGLES_PER_OBJECT = 4;
const TRIANGLE_MODES = { triangles: 4, strip: 5, fan: 6 };
const LINE_MODES = { lines: 1, loop: 2, strip: 3 };

/**
 * Reads a glTF 2.0 model (ISO/IEC 12113), binary or as JSON with its buffers inside. Objects are its nodes with a mesh,
 * layers the branches below the first fork of its tree. Lengths in metres with Y up become millimetres with Z up.
 * @throws ReadError with what is wrong and where
 */
export async function readGltf(bytes: Uint8Array, sink: SolidSink, options: GltfOptions): Promise<SolidResult> {
  const { document, json } = await parseGltf(bytes, options);
  return new SceneWalk(document, json, sink, options).run();
}

type Matrix = readonly number[];

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
  readonly #shapes = new Map<Primitive, Shape | null>();
  #objects = 0;
  #triangles = 0;
  #done = 0;

  constructor(
    private readonly document: Document,
    private readonly json: GltfJson,
    private readonly sink: SolidSink,
    private readonly options: GltfOptions,
  ) {}

  run(): SolidResult {
    const root = this.document.getRoot();
    const scene = root.getDefaultScene() ?? root.listScenes()[0];
    const tops = scene ? scene.listChildren() : root.listNodes().filter((node) => node.getParentNode() === null);
    if ((this.json.images ?? []).length > 0)
      this.#warnings.add('not-supported', 'pictures on surfaces are left out: surfaces have their plain colour', 0);
    if (root.listAnimations().length > 0)
      this.#warnings.add('not-supported', 'movements are left out: everything stands where it begins', 0);
    // a stem of single nodes isn't a fork
    let [stem, fork] = [-1, tops];
    while (fork.length === 1 && !fork[0]!.getMesh() && fork[0]!.listChildren().length > 0) {
      stem = this.#branch(fork[0]!.getName(), stem);
      fork = fork[0]!.listChildren();
    }
    for (const node of fork) {
      // an eye is no part of the model
      if (!node.getMesh() && node.listChildren().length === 0) {
        this.#camera(node);
        continue;
      }
      const layer = this.#layers.length;
      this.#layers.push({ name: node.getName() || `Part ${layer + 1}` });
      this.#visit(node, layer, stem);
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

  #branch(name: string, parent: number): number {
    this.#tree.push({ name, parent });
    return this.#tree.length - 1;
  }

  #visit(top: Node, layer: number, stem: number): void {
    // a list of what is still to do: trees may be deeper than the stack
    const waiting: { node: Node; parent: number }[] = [{ node: top, parent: stem }];
    const all = Math.max(this.document.getRoot().listNodes().length, 1);
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const { node, parent } = next;
      const children = node.listChildren();
      const branch = children.length > 0 ? this.#branch(node.getName(), parent) : parent;
      for (let i = children.length - 1; i >= 0; i--) waiting.push({ node: children[i]!, parent: branch });
      this.#camera(node);
      this.#object(node, layer, branch);
      this.options.onShare?.(++this.#done / all);
    }
  }

  #object(node: Node, layer: number, branch: number): void {
    const mesh = node.getMesh();
    if (!mesh) return;
    if (++this.#objects > this.options.maxObjects)
      throw new ReadError(
        'limit-exceeded',
        `The model has more than ${this.options.maxObjects} objects (GULL_PANE_MAX_ELEMENTS).`,
      );
    if (node.getSkin())
      this.#warnings.add('not-supported', 'skins that follow bones are left out: shapes are as they lie', 0);
    const name = node.getName() || mesh.getName() || `Object ${this.#objects}`;
    const object = this.sink.object({ name, node: branch, layer, facts: factsOf(node.getExtras()) });
    const world: Matrix = node.getWorldMatrix();
    for (const primitive of mesh.listPrimitives()) this.#part(primitive, object, world);
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
    this.sink.part({ object, material, positions, triangles, ...(turn ? { shape: { key: side, turn } } : {}) });
  }

  /** What a primitive holds wherever it stands. @returns null if nothing of it can be drawn */
  #shape(primitive: Primitive): Shape | null {
    const accessor = primitive.getAttribute('POSITION');
    if (!accessor) return null;
    if (primitive.listTargets().length > 0)
      this.#warnings.add('not-supported', 'shapes that change are shown as they begin', 0);
    if (primitive.getAttribute('COLOR_0'))
      this.#warnings.add('not-supported', 'colours of single vertices are left out', 0);
    const count = accessor.getCount();
    const indices = primitive.getIndices();
    const corners = new Uint32Array(indices ? indices.getCount() : count);
    for (let i = 0; i < corners.length; i++) corners[i] = indices ? indices.getScalar(i) : i;
    const local = new Float64Array(3 * count);
    const own: number[] = [0, 0, 0];
    for (let vertex = 0; vertex < count; vertex++) local.set(accessor.getElement(vertex, own), 3 * vertex);
    const mode = primitive.getMode();
    const isSolid = Object.values(TRIANGLE_MODES).includes(mode);
    if (!isSolid && !Object.values<number>(LINE_MODES).includes(mode)) {
      this.#warnings.add('not-supported', 'points are left out', 0);
      return null;
    }
    if (isSolid) {
      const sound = soundMesh(local, triples(corners, mode));
      if (sound.leftOut > 0) this.#warnings.add('not-a-number', LEFT_OUT, 0, sound.leftOut);
      if (sound.triangles.length === 0) return null;
      return { local: sound.positions, front: { triangles: sound.triangles }, behind: null, edges: null };
    }
    if (corners.some((corner) => corner >= count))
      throw new ReadError('damaged-file', `A line of object ${this.#objects - 1} names a vertex beyond its ${count}.`);
    return { local, front: { triangles: new Uint32Array(0) }, behind: null, edges: pairs(corners, mode) };
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

  #camera(node: Node): void {
    const camera = node.getCamera();
    if (!camera) return;
    const [x, y, z, w] = node.getWorldRotation();
    const q = multiply(aboutAxis({ x: 1, y: 0, z: 0 }, Math.PI / 2), { x, y, z, w });
    const [ex, ey, ez] = node.getWorldTranslation();
    const isParallel = camera.getType() === 'orthographic';
    this.#cameras.push({
      name: node.getName() || camera.getName() || `Camera ${this.#cameras.length + 1}`,
      projection: isParallel ? 'parallel' : 'perspective',
      eye: [ex * MM, -ez * MM, ey * MM],
      orientation: [q.x, q.y, q.z, q.w],
      ...(isParallel ? { height: 2 * camera.getYMag() * MM } : { fovRad: camera.getYFov() }),
    });
  }
}

const clamp = (share: number): number => Math.min(Math.max(Number.isFinite(share) ? share : 0, 0), 1);

/** A channel of linear light, 0 … 1, in sRGB, 0 … 255 (IEC 61966-2-1). */
function channel(light: number): number {
  const share = clamp(light);
  return Math.round(255 * (share <= 0.0031308 ? share * 12.92 : 1.055 * share ** (1 / 2.4) - 0.055));
}

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
const factsOf = (extras: Readonly<Record<string, unknown>>): string[] =>
  Object.entries(extras).flatMap(([name, value]) =>
    typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
      ? [`${name}: ${String(value)}`]
      : [],
  );
