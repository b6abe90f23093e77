import type { Layer } from '@gull-pane/core/drawing/model';
import type { Material, SolidResult, SolidSink, TreeNode } from '@gull-pane/core/solid/solid-model';
import type { ExactFormat } from '../model/model-head.ts';
import { ReadError } from '../read-error.ts';
import { mixed } from '../model/mixed.ts';
import { Repeats } from './repeats.ts';

/** What the package that takes STEP files apart hands over. Millimetres, Z up. */
export interface StepContent {
  readonly success: boolean;
  readonly root?: StepNode;
  readonly meshes?: readonly StepMesh[];
}
interface StepNode {
  readonly name?: string;
  /** Places in the list of meshes. */
  readonly meshes?: readonly number[];
  readonly children?: readonly StepNode[];
}
interface StepMesh {
  readonly name?: string;
  readonly color?: readonly number[];
  /** First and last triangle of each face. */
  readonly brep_faces?: readonly {
    readonly first: number;
    readonly last: number;
    readonly color?: readonly number[] | null;
  }[];
  readonly attributes: { readonly position: { readonly array: ArrayLike<number> } };
  readonly index: { readonly array: ArrayLike<number> };
}

export interface StepOptions {
  readonly format: ExactFormat;
  readonly maxObjects: number;
  /** Takes the file apart into triangles of at most so many millimetres off. */
  readonly parse: (bytes: Uint8Array) => StepContent;
  readonly onShare?: (share: number) => void;
}

/** Brackets that are nested too deep overrun the package's stack. */
function parsed(bytes: Uint8Array, parse: StepOptions['parse']): StepContent {
  try {
    return parse(bytes);
  } catch (error) {
    if (error instanceof RangeError) return { success: false };
    throw error;
  }
}

const TRIANGLES_PER_OBJECT = 4;
const grey = [0.7, 0.72, 0.73] as const;

const names: Readonly<Record<ExactFormat, string>> = { step: 'STEP', iges: 'IGES', brep: 'BREP' };
const units: Readonly<Record<ExactFormat, string>> = {
  step: 'STEP tells its unit: taken as millimetres with Z up; curved faces as triangles',
  iges: 'IGES tells its unit: taken as millimetres with Z up; curved faces as triangles',
  brep: 'BREP tells neither its unit nor which way is up: taken as millimetres with Z up; curved faces as triangles',
};

/**
 * Reads a model of exact faces (STEP, ISO 10303-21; IGES 5.3; a boundary representation in words) as triangles; its edges are the borders of its faces. Objects are its
 * parts, layers the branches below the first fork of its tree. Parts that stand several times share their shape.
 * @throws ReadError with what is wrong
 */
export function readStep(
  bytes: Uint8Array,
  sink: SolidSink,
  { format, maxObjects, parse, onShare }: StepOptions,
): SolidResult {
  const { success, root, meshes = [] } = parsed(bytes, parse);
  if (!success || !root)
    throw new ReadError(
      'damaged-file',
      `The ${names[format]} file can’t be taken apart: check the export that made it.`,
    );
  const layers: Layer[] = [];
  const tree: TreeNode[] = [];
  const materials: Material[] = [];
  const materialOf = new Map<string, number>();
  const materialFor = (colour: readonly number[]): number => {
    const key = colour.join(' ');
    let index = materialOf.get(key);
    if (index === undefined) {
      index = materials.length;
      materialOf.set(key, index);
      const [r = 0, g = 0, b = 0] = colour.map((share) => Math.round(255 * Math.min(Math.max(share, 0), 1)));
      const name = colour === grey ? 'Plain' : `Colour ${index + 1}`;
      materials.push({ name, colour: { r, g, b, a: 255 }, metalness: 0.2, roughness: 0.5 });
    }
    return index;
  };
  const repeats = new Repeats();
  /** What stands for the part of a colour, wherever its mesh stands. */
  const keys = new WeakMap<object, Map<string, object>>();
  let objects = 0;
  let triangles = 0;
  const take = (mesh: StepMesh, name: string, node: number, layer: number): void => {
    if (++objects > maxObjects)
      throw new ReadError('limit-exceeded', `The model has more than ${maxObjects} objects (GULL_PANE_MAX_ELEMENTS).`);
    const object = sink.object({ name: (isNameless(mesh.name) ? name : mesh.name) || `Part ${objects}`, node, layer });
    const positions = Float64Array.from(mesh.attributes.position.array);
    const corners = Uint32Array.from(mesh.index.array);
    triangles += corners.length / 3;
    const most = TRIANGLES_PER_OBJECT * maxObjects;
    if (triangles > most)
      throw new ReadError(
        'limit-exceeded',
        `The model has more than ${most} triangles (four times GULL_PANE_MAX_ELEMENTS).`,
      );
    // faces of one colour are one part
    const faces = mesh.brep_faces ?? [{ first: 0, last: corners.length / 3 - 1 }];
    const byColour = new Map<number, { triangles: number[]; edges: number[] }>();
    for (const { first, last, color } of faces) {
      const material = materialFor(color ?? mesh.color ?? grey);
      const part = byColour.get(material) ?? { triangles: [], edges: [] };
      byColour.set(material, part);
      const face = corners.subarray(3 * first, 3 * (last + 1));
      for (const corner of face) part.triangles.push(corner);
      for (const end of bordersOf(face)) part.edges.push(end);
    }
    const { key, turn } = repeats.find(positions, corners);
    const shapes = keys.get(key) ?? new Map<string, object>();
    keys.set(key, shapes);
    for (const [material, part] of byColour) {
      // the same faces make the same shape, whatever their colour there
      const faces = `${part.triangles.length} ${mixed(part.triangles)}`;
      const shape = shapes.get(faces) ?? {};
      shapes.set(faces, shape);
      sink.part({
        object,
        material,
        positions,
        triangles: Uint32Array.from(part.triangles),
        edges: Uint32Array.from(part.edges),
        shape: { key: shape, turn },
      });
    }
    onShare?.(objects / Math.max(meshes.length, 1));
  };
  const visit = (top: StepNode, layer: number, parent: number): void => {
    const waiting = [{ node: top, parent }];
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const { node } = next;
      const children = node.children ?? [];
      let branch = next.parent;
      if (children.length > 0) branch = tree.push({ name: node.name ?? '', parent: branch }) - 1;
      for (const child of [...children].reverse()) waiting.push({ node: child, parent: branch });
      for (const mesh of node.meshes ?? []) if (meshes[mesh]) take(meshes[mesh], node.name ?? '', branch, layer);
    }
  };
  let [stem, fork] = [-1, root];
  while ((fork.children ?? []).length === 1 && (fork.meshes ?? []).length === 0) {
    stem = tree.push({ name: fork.name ?? '', parent: stem }) - 1;
    fork = fork.children![0]!;
  }
  const branches = (fork.children ?? []).length > 0 ? fork.children! : [fork];
  for (const branch of branches) {
    layers.push({ name: branch.name || meshes[branch.meshes?.[0] ?? -1]?.name || `Part ${layers.length + 1}` });
    visit(branch, layers.length - 1, stem);
  }
  if (branches[0] !== fork && (fork.meshes ?? []).length > 0) {
    layers.push({ name: fork.name || 'Model' });
    visit({ ...fork, children: [] }, layers.length - 1, stem);
  }
  return {
    layers,
    materials,
    tree,
    cameras: [],
    warnings: [],
    frame: units[format],
  };
}

/** Names that writers use for unnamed parts. */
const isNameless = (name = ''): boolean => name === '' || /^(solid|shell|none)\b/i.test(name);

/** Edges of a face that only one of its triangles has. */
function bordersOf(face: Uint32Array): number[] {
  const met = new Map<string, [number, number] | null>();
  for (let t = 0; t < face.length; t += 3)
    for (let side = 0; side < 3; side++) {
      const [a, b] = [face[t + side]!, face[t + ((side + 1) % 3)]!];
      const key = a < b ? `${a} ${b}` : `${b} ${a}`;
      met.set(key, met.has(key) ? null : [a, b]);
    }
  return [...met.values()].flatMap((edge) => edge ?? []);
}
