import type { BufferGeometry, Mesh, Object3D } from 'three';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import type { Material, SolidResult, SolidSink } from '@gull-pane/core/solid/solid-model';
import { ReadError } from '../read-error.ts';
import { Warnings } from '../warnings.ts';

export type MeshFormat = 'stl' | 'obj' | 'ply';

export interface MeshOptions {
  /** Objects that may be made; four times as many triangles. */
  readonly maxObjects: number;
  readonly onShare?: (share: number) => void;
}

const TRIANGLES_PER_OBJECT = 4;
/** Plain, as a cast: the formats tell of no colours, or in another file. */
const grey: Material = { name: 'Plain', colour: { r: 176, g: 182, b: 186, a: 255 }, metalness: 0.1, roughness: 0.7 };
const names: Readonly<Record<MeshFormat, string>> = { stl: 'STL', obj: 'OBJ', ply: 'PLY' };

/**
 * Reads a model of bare triangles. None of these formats tells its unit or which way is up: numbers are taken as
 * millimetres with Z up, and the report says so.
 * @throws ReadError with what is wrong
 */
export function readMesh(bytes: Uint8Array, format: MeshFormat, sink: SolidSink, options: MeshOptions): SolidResult {
  const warnings = new Warnings('line');
  const pieces = piecesOf(bytes, format, warnings);
  const layers: { name: string }[] = [];
  const layerOf = new Map<string, number>();
  let triangles = 0;
  pieces.forEach(({ name, layer, geometry }, index) => {
    if (index >= options.maxObjects)
      throw new ReadError(
        'limit-exceeded',
        `The model has more than ${options.maxObjects} objects (GULL_PANE_MAX_ELEMENTS).`,
      );
    let number = layerOf.get(layer);
    if (number === undefined) {
      number = layers.length;
      layerOf.set(layer, number);
      layers.push({ name: layer });
    }
    const object = sink.object({ name, node: -1, layer: number });
    if (!geometry.hasAttribute('position')) return;
    const position = geometry.getAttribute('position');
    const positions = Float64Array.from(position.array);
    const count = positions.length / 3;
    const corners = geometry.index
      ? Uint32Array.from(geometry.index.array)
      : Uint32Array.from({ length: count }, (_, i) => i);
    if (corners.some((corner) => corner >= count))
      throw new ReadError('damaged-file', `${name} names a vertex beyond its ${count}.`);
    triangles += corners.length / 3;
    const most = TRIANGLES_PER_OBJECT * options.maxObjects;
    if (triangles > most)
      throw new ReadError(
        'limit-exceeded',
        `The model has more than ${most} triangles (four times GULL_PANE_MAX_ELEMENTS).`,
      );
    if (positions.every(Number.isFinite)) sink.part({ object, material: 0, positions, triangles: corners });
    else warnings.add('not-a-number', 'a mesh with coordinates that are no numbers is left out', 0);
    options.onShare?.((index + 1) / pieces.length);
  });
  return {
    ...{ layers, materials: [grey], tree: [], cameras: [] },
    warnings: warnings.list().map(({ code, message, count }) => ({ code, message, count })),
    frame: `${names[format]} tells neither its unit nor which way is up: taken as millimetres with Z up`,
  };
}

interface Piece {
  readonly name: string;
  readonly layer: string;
  readonly geometry: BufferGeometry;
}

function piecesOf(bytes: Uint8Array, format: MeshFormat, warnings: Warnings): Piece[] {
  try {
    const buffer = bytes.slice().buffer;
    if (format === 'obj') return objPieces(new TextDecoder().decode(bytes), warnings);
    if (format === 'ply') return [{ name: 'Model', layer: 'Model', geometry: new PLYLoader().parse(buffer) }];
    return [{ name: 'Model', layer: 'Model', geometry: new STLLoader().parse(buffer) }];
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new ReadError('damaged-file', `The ${names[format]} file can't be taken apart: ${reason}`);
  }
}

function objPieces(text: string, warnings: Warnings): Piece[] {
  if (/^mtllib\s/m.test(text))
    warnings.add('not-supported', 'colours lie in another file (mtllib) and are left out: surfaces are grey', 0);
  const pieces: Piece[] = [];
  const root: Object3D = new OBJLoader().parse(text);
  root.traverse((object) => {
    if ('isMesh' in object) {
      const { name, geometry, material } = object as Mesh;
      const [first] = [material].flat();
      pieces.push({ name: name || `Object ${pieces.length + 1}`, layer: first?.name || 'Model', geometry });
    } else if ('isLine' in object || 'isPoints' in object)
      warnings.add('not-supported', 'points and lines without surfaces are left out', 0);
  });
  return pieces;
}
