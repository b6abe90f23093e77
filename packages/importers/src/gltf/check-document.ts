import { ReadError } from '../read-error.ts';

/** The parts of a glTF document (ISO/IEC 12113) that are checked before anything is made of them. */
export interface GltfJson {
  readonly asset?: { readonly version?: unknown };
  readonly extensionsRequired?: readonly string[];
  readonly buffers?: readonly { readonly byteLength?: number; readonly uri?: string }[];
  readonly bufferViews?: readonly {
    readonly buffer?: number;
    readonly byteOffset?: number;
    readonly byteLength?: number;
    readonly byteStride?: number;
    readonly extensions?: Readonly<Record<string, unknown>>;
  }[];
  readonly accessors?: readonly {
    readonly bufferView?: number;
    readonly byteOffset?: number;
    readonly componentType?: number;
    readonly count?: number;
    readonly type?: string;
  }[];
  readonly nodes?: readonly {
    readonly name?: string;
    readonly children?: readonly number[];
    readonly mesh?: number;
    readonly camera?: number;
    readonly skin?: number;
    readonly matrix?: readonly number[];
    readonly translation?: readonly number[];
    readonly rotation?: readonly number[];
    readonly scale?: readonly number[];
    readonly extras?: unknown;
    readonly extensions?: {
      readonly EXT_mesh_gpu_instancing?: { readonly attributes?: Readonly<Record<string, number>> };
    };
  }[];
  readonly meshes?: readonly { readonly name?: string }[];
  readonly cameras?: readonly {
    readonly name?: string;
    readonly type?: string;
    readonly perspective?: { readonly yfov?: number };
    readonly orthographic?: { readonly ymag?: number };
  }[];
  readonly scene?: number;
  readonly scenes?: readonly { readonly nodes?: readonly number[] }[];
  readonly images?: readonly unknown[];
  readonly animations?: readonly unknown[];
}

const componentBytes: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const components: Readonly<Record<string, number>> = {
  SCALAR: 1,
  VEC2: 2,
  VEC3: 3,
  VEC4: 4,
  MAT2: 4,
  MAT3: 9,
  MAT4: 16,
};
/** What is understood, or can be left out without harm to the shape. */
const knownExtensions = new Set([
  'KHR_draco_mesh_compression',
  'EXT_meshopt_compression',
  'KHR_mesh_quantization',
  'EXT_mesh_gpu_instancing',
  'KHR_texture_transform',
  'KHR_materials_unlit',
  'KHR_materials_pbrSpecularGlossiness',
  'KHR_texture_basisu',
  'EXT_texture_webp',
]);

export interface GltfLimits {
  /** Numbers that all accessors may have in all. */
  readonly maxNumbers: number;
}

/**
 * Refuses what can't be read safely, before memory is taken for it.
 * @param binBytes length of the binary chunk; 0 if there is none
 * @throws ReadError that names the part and what is wrong with it
 */
export function checkDocument(json: GltfJson, binBytes: number, { maxNumbers }: GltfLimits): void {
  const version = typeof json.asset?.version === 'string' ? json.asset.version : '';
  if (!version.startsWith('2.'))
    fail(
      'not-a-model',
      `The file says it is glTF ${version === '' ? 'of no version' : version}; only version 2 is read.`,
    );
  const unknown = (json.extensionsRequired ?? []).filter((name) => !knownExtensions.has(name));
  if (unknown.length > 0)
    fail(
      'not-a-model',
      `The file can't be read without ${unknown.join(', ')}, which isn't understood. Save it without.`,
    );
  const buffers = json.buffers ?? [];
  buffers.forEach(({ uri, byteLength = 0 }, index) => {
    if (uri === undefined && index === 0) {
      if (byteLength > binBytes)
        fail('damaged-file', `Buffer 0 is said to hold ${byteLength} bytes, but the file has only ${binBytes} for it.`);
    } else if (uri !== undefined && !uri.startsWith('data:')) {
      const name = uri.slice(0, 80);
      fail(
        'damaged-file',
        `Its buffer file “${name}” is missing: choose or drop both together, or save the model as one .glb file.`,
      );
    }
  });
  const views = json.bufferViews ?? [];
  views.forEach(({ buffer = -1, byteOffset = 0, byteLength = 0 }, index) => {
    const whole = buffers[buffer];
    if (!whole) fail('damaged-file', `Buffer view ${index} is of buffer ${buffer}, which isn't there.`);
    if (!(byteOffset >= 0 && byteLength >= 0 && byteOffset + byteLength <= (whole.byteLength ?? 0)))
      fail('damaged-file', `Buffer view ${index} reaches beyond the end of its buffer.`);
  });
  let numbers = 0;
  (json.accessors ?? []).forEach((accessor, index) => {
    const { bufferView, byteOffset = 0, componentType = 0, count = 0, type = '' } = accessor;
    const [bytes, width] = [componentBytes[componentType], components[type]];
    if (bytes === undefined || width === undefined || !Number.isInteger(count) || count < 0)
      fail('damaged-file', `Accessor ${index} has no such type: ${componentType} ${type} × ${count}.`);
    numbers += count * width;
    if (numbers > maxNumbers)
      fail('limit-exceeded', `The model holds more than ${maxNumbers} numbers (GULL_PANE_MAX_ELEMENTS).`);
    if (bufferView === undefined) return;
    const view = views[bufferView];
    if (!view) fail('damaged-file', `Accessor ${index} is of buffer view ${bufferView}, which isn't there.`);
    const { byteStride = bytes * width, byteLength = 0, extensions } = view;
    if (extensions?.EXT_meshopt_compression) return; // its own lengths are checked while it is unpacked
    const end = count === 0 ? 0 : byteOffset + (count - 1) * byteStride + bytes * width;
    if (end > byteLength)
      fail('damaged-file', `Accessor ${index} reads to byte ${end} of a part that has ${byteLength}.`);
  });
  checkTree(json);
}

/** Every node hangs on one other at most, and none on itself. */
function checkTree({ nodes = [], scenes = [], meshes = [] }: GltfJson): void {
  const parentOf = new Int32Array(nodes.length).fill(-1);
  nodes.forEach(({ children = [], mesh }, index) => {
    if (mesh !== undefined && !meshes[mesh])
      fail('damaged-file', `Node ${index} shows mesh ${mesh}, which isn't there.`);
    for (const child of children) {
      if (!nodes[child]) fail('damaged-file', `Node ${index} has a child ${child} that isn't there.`);
      if (parentOf[child]! >= 0)
        fail('damaged-file', `Node ${child} hangs on two others, ${parentOf[child]!} and ${index}.`);
      parentOf[child] = index;
    }
  });
  const isSafe = new Uint8Array(nodes.length);
  nodes.forEach((_, index) => {
    const way: number[] = [];
    for (let at = index; at >= 0 && !isSafe[at]; at = parentOf[at]!) {
      way.push(at);
      if (way.length > nodes.length) fail('damaged-file', `Node ${index} hangs on itself.`);
    }
    for (const at of way) isSafe[at] = 1;
  });
  for (const { nodes: roots = [] } of scenes)
    for (const root of roots) if (!nodes[root]) fail('damaged-file', `A scene shows node ${root}, which isn't there.`);
}

function fail(code: 'not-a-model' | 'damaged-file' | 'limit-exceeded', message: string): never {
  throw new ReadError(code, message);
}
