/** Numbers of glTF 2.0 (section 5, "Properties Reference"). */
export const ComponentType = { byte: 5120, unsignedByte: 5121, short: 5122, unsignedInt: 5125, float: 5126 } as const;
export const Mode = { points: 0, lines: 1, triangles: 4 } as const;
const Target = { vertices: 34962, indices: 34963 } as const;

/** How a view of a buffer is to be read. */
export interface ViewRules {
  /** Bytes from one vertex to the next. */
  readonly stride?: number;
  readonly isIndices?: boolean;
}

/** What an accessor says beside its view. */
export interface AccessorRules {
  readonly componentType: number;
  readonly count: number;
  readonly type: 'SCALAR' | 'VEC3' | 'VEC4';
  readonly byteOffset?: number;
  readonly normalized?: boolean;
  readonly min?: readonly number[];
  readonly max?: readonly number[];
}

/** A glTF document as it is put together: its own buffer, and others beside it. */
export class TileDocument {
  readonly #views: object[] = [];
  readonly #accessors: object[] = [];
  readonly #meshes: object[] = [];
  readonly #nodes: object[] = [];
  readonly #parts: { readonly list: ArrayBufferView<ArrayBuffer>; readonly at: number }[] = [];
  readonly #others: { readonly uri: string; byteLength: number }[] = [];
  readonly #extensions = new Set<string>();
  #length = 0;

  /** Puts numbers into the document's own buffer. @returns the view's number */
  view(list: ArrayBufferView<ArrayBuffer>, rules: ViewRules): number {
    const at = this.#length;
    this.#parts.push({ list, at });
    this.#length += (list.byteLength + 3) & ~3;
    return this.#view(0, at, list.byteLength, rules);
  }

  /** A view of a file beside the document. @returns the view's number */
  viewOf(uri: string, byteOffset: number, byteLength: number, rules: ViewRules): number {
    let buffer = this.#others.findIndex((other) => other.uri === uri);
    if (buffer < 0) buffer = this.#others.push({ uri, byteLength: 0 }) - 1;
    const other = this.#others[buffer]!;
    other.byteLength = Math.max(other.byteLength, byteOffset + byteLength);
    return this.#view(buffer + 1, byteOffset, byteLength, rules);
  }

  /** @returns the accessor's number */
  accessor(view: number, rules: AccessorRules): number {
    // normals of one or two bytes
    if (rules.normalized && rules.type === 'VEC3') this.#extensions.add('KHR_mesh_quantization');
    return this.#accessors.push({ bufferView: view, ...rules }) - 1;
  }

  /** @returns the mesh's number */
  mesh(primitives: readonly object[]): number {
    return this.#meshes.push({ primitives }) - 1;
  }

  /** @param attributes of its instances, where it stands several times */
  node(mesh: number, attributes?: Readonly<Record<string, number>>): void {
    if (!attributes) {
      this.#nodes.push({ mesh });
      return;
    }
    this.#extensions.add('EXT_mesh_gpu_instancing');
    this.#nodes.push({ mesh, extensions: { EXT_mesh_gpu_instancing: { attributes } } });
  }

  finish(materials: readonly object[], extras: object): { readonly json: object; readonly bin: Uint8Array } {
    const bin = new Uint8Array(this.#length);
    for (const { list, at } of this.#parts) bin.set(new Uint8Array(list.buffer, list.byteOffset, list.byteLength), at);
    const extensions = [...this.#extensions];
    const json = {
      asset: { version: '2.0', generator: 'Gull Pane' },
      ...(extensions.length > 0 ? { extensionsUsed: extensions, extensionsRequired: extensions } : {}),
      scene: 0,
      scenes: [this.#nodes.length > 0 ? { nodes: this.#nodes.map((_, node) => node) } : {}],
      ...(this.#nodes.length > 0 ? { nodes: this.#nodes, meshes: this.#meshes } : {}),
      ...(materials.length > 0 ? { materials } : {}),
      ...(this.#accessors.length > 0 ? { accessors: this.#accessors } : {}),
      bufferViews: this.#views,
      buffers: [{ byteLength: this.#length }, ...this.#others],
      extras,
    };
    return { json, bin };
  }

  #view(buffer: number, byteOffset: number, byteLength: number, { stride, isIndices }: ViewRules): number {
    const target = isIndices ? Target.indices : stride === undefined ? undefined : Target.vertices;
    return (
      this.#views.push({
        buffer,
        byteOffset,
        byteLength,
        ...(stride === undefined ? {} : { byteStride: stride }),
        ...(target === undefined ? {} : { target }),
      }) - 1
    );
  }
}
