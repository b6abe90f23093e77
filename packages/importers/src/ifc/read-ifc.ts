import type { FlatMesh, IfcAPI } from 'web-ifc';
import type { Colour, Layer } from '@gull-pane/core/drawing/model';
import type { Material, SolidResult, SolidSink, TreeNode } from '@gull-pane/core/solid/solid-model';
import { ReadError } from '../read-error.ts';
import { Warnings } from '../warnings.ts';
import { mixed } from '../model/mixed.ts';
import { evenTurn, isMirror, placedFromYUp } from '../y-up.ts';
import { IfcLines, valueOf } from './ifc-lines.ts';
import type { IfcTypes } from './ifc-types.ts';
import { mapPlacementOf, placeOnMap, trueNorthDeg, turnedOnMap, type MapPlacement } from './place-on-map.ts';
import { ProductFacts } from './product-facts.ts';

export interface IfcOptions {
  readonly maxObjects: number;
  /** What takes the file apart, ready to be used. */
  readonly api: IfcAPI;
  readonly types: IfcTypes;
  readonly onShare?: (share: number) => void;
}

/**
 * Reads a building model (IFC, ISO 16739). Objects are its products with a shape, layers the kinds within each storey;
 * properties and systems can be searched. Lengths in any unit become millimetres; Z is up.
 * @throws ReadError with what is wrong
 */
export function readIfc(
  bytes: Uint8Array,
  sink: SolidSink,
  { api, types, maxObjects, onShare }: IfcOptions,
): SolidResult {
  const model = api.OpenModel(bytes, { COORDINATE_TO_ORIGIN: false });
  if (model < 0)
    throw new ReadError('damaged-file', 'The IFC file can’t be taken apart: it names no schema that is known.');
  try {
    return new Building(api, model, types).read(sink, maxObjects, onShare);
  } finally {
    api.CloseModel(model);
  }
}

class Building {
  readonly #warnings = new Warnings('line');
  readonly #layers: Layer[] = [];
  readonly #layerOf = new Map<string, number>();
  readonly #materials: Material[] = [];
  readonly #materialOf = new Map<string, number>();
  readonly #tree: TreeNode[] = [];
  readonly #nodeOf = new Map<number, number>();
  /** The spatial part that an element stands in, or the whole that it is a part of. */
  readonly #wholeOf = new Map<number, number>();
  /** The first system that an element is assigned to. */
  readonly #systemOf = new Map<number, string>();
  /** What stands for each geometry. */
  readonly #shapes = new Map<string, object>();
  readonly #lines: IfcLines;
  readonly #facts: ProductFacts;
  readonly #map: MapPlacement | null;

  constructor(
    private readonly api: IfcAPI,
    private readonly model: number,
    private readonly types: IfcTypes,
  ) {
    this.#lines = new IfcLines(api, model, () =>
      this.#warnings.add('damaged', 'a line that others refer to is missing or can’t be read', 0),
    );
    this.#facts = new ProductFacts(this.#lines, types);
    this.#map = mapPlacementOf(this.#lines, types);
  }

  read(sink: SolidSink, maxObjects: number, onShare?: (share: number) => void): SolidResult {
    const { types } = this;
    const lines = this.#lines;
    lines.relate(types.aggregates, 'RelatedObjects', 'RelatingObject', (part, whole) => this.#wholeOf.set(part, whole));
    lines.relate(types.contained, 'RelatedElements', 'RelatingStructure', (part, whole) =>
      this.#wholeOf.set(part, whole),
    );
    lines.relate(types.groups, 'RelatedObjects', 'RelatingGroup', (element, group) => {
      const name = lines.nameOf(group);
      if (name !== '' && !this.#systemOf.has(element)) this.#systemOf.set(element, name);
    });
    let objects = 0;
    this.api.StreamAllMeshes(this.model, (mesh, index, total) => {
      if (++objects > maxObjects)
        throw new ReadError(
          'limit-exceeded',
          `The model has more than ${maxObjects} objects (GULL_PANE_MAX_ELEMENTS).`,
        );
      this.#product(mesh, sink);
      onShare?.(total > 0 ? index / total : 0);
    });
    return {
      layers: this.#layers,
      materials: this.#materials,
      tree: this.#tree,
      cameras: [],
      warnings: this.#warnings.list().map(({ code, message, count }) => ({ code, message, count })),
      frame: this.#frame(),
    };
  }

  #product(mesh: FlatMesh, sink: SolidSink): void {
    const { expressID } = mesh;
    const kind = this.api
      .GetNameFromTypeCode(this.api.GetLineType(this.model, expressID) as number)
      .replace(/^Ifc/, '');
    const storey = this.#wholeOf.get(expressID);
    const where = storey === undefined ? '' : this.#lines.nameOf(storey);
    const id = valueOf(this.#lines.line(expressID)?.GlobalId);
    const facts = [`kind: ${kind}`, ...(id === '' ? [] : [`GlobalId: ${id}`]), ...this.#facts.of(expressID)];
    const object = sink.object({
      name: this.#lines.nameOf(expressID) || `${kind} ${expressID}`,
      ...(id === '' ? {} : { id }),
      node: storey === undefined ? -1 : this.#node(storey),
      layer: this.#layer(this.#systemOf.get(expressID) ?? (where === '' ? kind : `${where} · ${kind}`)),
      facts,
    });
    for (let i = 0; i < mesh.geometries.size(); i++) {
      const { color, flatTransformation, geometryExpressID } = mesh.geometries.get(i);
      const geometry = this.api.GetGeometry(this.model, geometryExpressID);
      // six numbers a vertex: place and normal
      const numbers = this.api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
      const corners = this.api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
      const at = (vertex: number, to: number[]): void => {
        for (let axis = 0; axis < 3; axis++) to[axis] = numbers[6 * vertex + axis]!;
      };
      const positions = placedFromYUp(numbers.length / 6, at, flatTransformation);
      if (this.#map) placeOnMap(positions, this.#map);
      const triangles = Uint32Array.from(corners);
      const isTurnedOver = isMirror(flatTransformation);
      if (isTurnedOver)
        for (let t = 0; t < triangles.length; t += 3)
          [triangles[t + 1], triangles[t + 2]] = [triangles[t + 2]!, triangles[t + 1]!];
      geometry.delete();
      if (!positions.every(Number.isFinite)) {
        this.#warnings.add('not-a-number', 'a shape with coordinates that are no numbers is left out', 0);
        continue;
      }
      const turn = evenTurn(flatTransformation);
      const shape = turn && {
        key: this.#shapeOf(`${geometryExpressID} ${isTurnedOver}`, numbers, corners),
        turn: this.#map ? turnedOnMap(turn, this.#map) : turn,
      };
      sink.part({ object, material: this.#material(color), positions, triangles, ...(shape ? { shape } : {}) });
    }
  }

  /** What stands for a geometry that comes several times; the same number with other contents is another one. */
  #shapeOf(geometry: string, numbers: Float32Array, corners: Uint32Array): object {
    const bits = new Uint32Array(numbers.buffer, numbers.byteOffset, numbers.length);
    const name = `${geometry} ${numbers.length} ${corners.length} ${mixed(bits)} ${mixed(corners)}`;
    let shape = this.#shapes.get(name);
    if (!shape) this.#shapes.set(name, (shape = {}));
    return shape;
  }

  #frame(): string {
    const said = ['IFC tells its unit and has Z up: taken as millimetres'];
    const { system = '' } = this.#map ?? {};
    if (this.#map) said.push(`placed on its map${system === '' ? '' : `, ${system}`}`);
    const north = trueNorthDeg(this.#lines, this.types);
    if (north !== null && Math.abs(north) > 1e-9)
      said.push(
        `true north lies ${Math.abs(north).toFixed(3)}° ${north > 0 ? 'clockwise' : 'anticlockwise'} of its Y axis`,
      );
    return said.join('; ');
  }

  /** The branch of a spatial part, its wholes before it. */
  #node(id: number): number {
    const known = this.#nodeOf.get(id);
    if (known !== undefined) return known;
    this.#nodeOf.set(id, -1); // a part that is its own whole stays at the top
    const whole = this.#wholeOf.get(id);
    const parent = whole === undefined ? -1 : this.#node(whole);
    this.#tree.push({ name: this.#lines.nameOf(id), parent });
    this.#nodeOf.set(id, this.#tree.length - 1);
    return this.#tree.length - 1;
  }

  #layer(name: string): number {
    let number = this.#layerOf.get(name);
    if (number === undefined) {
      number = this.#layers.length;
      this.#layerOf.set(name, number);
      this.#layers.push({ name });
    }
    return number;
  }

  #material({
    x,
    y,
    z,
    w,
  }: {
    readonly x: number;
    readonly y: number;
    readonly z: number;
    readonly w: number;
  }): number {
    const byte = (share: number): number => Math.round(255 * Math.min(Math.max(share, 0), 1));
    // what has no colour of its own is plain, as a cast
    const isPlain = x === 1 && y === 1 && z === 1;
    const colour: Colour = isPlain
      ? { r: 196, g: 196, b: 190, a: byte(w) }
      : { r: byte(x), g: byte(y), b: byte(z), a: byte(w) };
    const key = Object.values(colour).join(' ');
    let index = this.#materialOf.get(key);
    if (index === undefined) {
      index = this.#materials.length;
      this.#materialOf.set(key, index);
      this.#materials.push({ name: isPlain ? 'Plain' : `Colour ${index + 1}`, colour, metalness: 0, roughness: 0.8 });
    }
    return index;
  }
}
