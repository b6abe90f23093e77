import { packGlb } from '@gull-pane/core/pyramid/glb';
import type { Shape } from './solid-shapes.ts';

export interface Placement {
  /** Metres, Z up. */
  readonly at?: readonly [number, number, number];
  /** Turn about the vertical, anticlockwise seen from above. */
  readonly turnRad?: number;
  readonly facts?: Readonly<Record<string, string | number>>;
}

interface NodeJson {
  name: string;
  mesh?: number;
  camera?: number;
  children?: number[];
  translation?: number[];
  rotation?: number[];
  extras?: Record<string, string | number>;
}

/** Puts a model together as a binary glTF 2.0 file: shapes that are used again are kept once. Metres, Z up. */
export class ModelWriter {
  readonly #nodes: NodeJson[];
  readonly #meshes: object[] = [];
  readonly #meshOf = new Map<string, number>();
  readonly #materials: object[] = [];
  readonly #cameras: object[] = [];
  readonly #accessors: object[] = [];
  readonly #views: object[] = [];
  readonly #parts: Uint8Array[] = [];
  #length = 0;

  /** @param at where the model's own origin lies in the world */
  constructor(name: string, at: readonly [number, number, number]) {
    this.#nodes = [{ name, translation: upright(at) }];
  }

  /** @param colour #rrggbb, as it is seen */
  material(name: string, colour: string, metalness: number, roughness: number, alpha = 1): number {
    const light = [1, 3, 5].map((at) => {
      const share = Number.parseInt(colour.slice(at, at + 2), 16) / 255;
      return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
    });
    this.#materials.push({
      name,
      pbrMetallicRoughness: {
        baseColorFactor: [...light, alpha],
        metallicFactor: metalness,
        roughnessFactor: roughness,
      },
      ...(alpha < 1 ? { alphaMode: 'BLEND' } : {}),
    });
    return this.#materials.length - 1;
  }

  /** A branch of the tree. @returns its node, to hang others on */
  group(name: string, parent = 0): number {
    return this.#hang({ name }, parent);
  }

  /** @param key names the shape: it is made only once, and may be made of several materials */
  object(
    name: string,
    parent: number,
    key: string,
    parts: () => readonly (readonly [Shape, material: number])[],
    { at, turnRad, facts }: Placement = {},
  ): void {
    let mesh = this.#meshOf.get(key);
    if (mesh === undefined) {
      mesh = this.#meshes.length;
      this.#meshOf.set(key, mesh);
      this.#meshes.push({
        name: key,
        primitives: parts().map(([shape, material]) => this.#primitive(shape, material)),
      });
    }
    this.#hang(
      {
        name,
        mesh,
        ...(at ? { translation: upright(at) } : {}),
        ...(turnRad ? { rotation: [0, Math.sin(turnRad / 2), 0, Math.cos(turnRad / 2)] } : {}),
        ...(facts ? { extras: { ...facts } } : {}),
      },
      parent,
    );
  }

  /** A view that the file keeps. @param target what it looks at, metres, Z up */
  camera(name: string, eye: readonly [number, number, number], target: readonly [number, number, number]): void {
    const way = target.map((value, axis) => value - eye[axis]!) as [number, number, number];
    const heading = Math.atan2(-way[0], way[1]);
    const pitch = Math.atan2(way[2], Math.hypot(way[0], way[1]));
    const [y, x] = [heading / 2, pitch / 2];
    const rotation = [
      Math.cos(y) * Math.sin(x),
      Math.sin(y) * Math.cos(x),
      -Math.sin(y) * Math.sin(x),
      Math.cos(y) * Math.cos(x),
    ];
    this.#cameras.push({ name, type: 'perspective', perspective: { yfov: Math.PI / 4, znear: 0.1, zfar: 1000 } });
    this.#hang({ name, camera: this.#cameras.length - 1, translation: upright(eye), rotation }, 0);
  }

  bytes(): Uint8Array<ArrayBuffer> {
    const bin = new Uint8Array(this.#length);
    let at = 0;
    for (const part of this.#parts) {
      bin.set(part, at);
      at += part.length;
    }
    const json = {
      asset: { version: '2.0', generator: 'Kelpie Sound model writer' },
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: this.#nodes,
      meshes: this.#meshes,
      materials: this.#materials,
      ...(this.#cameras.length > 0 ? { cameras: this.#cameras } : {}),
      accessors: this.#accessors,
      bufferViews: this.#views,
      buffers: [{ byteLength: bin.length }],
    };
    return packGlb(json, bin);
  }

  #hang(node: NodeJson, parent: number): number {
    const index = this.#nodes.length;
    this.#nodes.push(node);
    (this.#nodes[parent]!.children ??= []).push(index);
    return index;
  }

  #primitive({ positions, triangles }: Shape, material: number): object {
    const places = new Float32Array(positions.length);
    const min = [Infinity, Infinity, Infinity];
    const max = [-Infinity, -Infinity, -Infinity];
    for (let i = 0; i < positions.length; i += 3) places.set(upright(positions.slice(i, i + 3)), i);
    places.forEach((value, i) => {
      min[i % 3] = Math.min(min[i % 3]!, value);
      max[i % 3] = Math.max(max[i % 3]!, value);
    });
    const POSITION = this.#accessor(places, { componentType: 5126, count: places.length / 3, type: 'VEC3', min, max });
    const indices = Uint32Array.from(triangles);
    return {
      attributes: { POSITION },
      indices: this.#accessor(indices, { componentType: 5125, count: indices.length, type: 'SCALAR' }),
      material,
    };
  }

  #accessor(data: Float32Array | Uint32Array, entry: object): number {
    const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    this.#views.push({ buffer: 0, byteOffset: this.#length, byteLength: bytes.length });
    this.#parts.push(bytes);
    this.#length += bytes.length;
    this.#accessors.push({ bufferView: this.#views.length - 1, ...entry });
    return this.#accessors.length - 1;
  }
}

/** glTF has Y up. */
const upright = ([x = 0, y = 0, z = 0]: readonly number[]): number[] => [x, z, -y];
