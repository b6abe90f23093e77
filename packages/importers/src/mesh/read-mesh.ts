import type { BufferGeometry } from 'three';
import { MTLLoader } from 'three/examples/jsm/loaders/MTLLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { Growable } from '@gull-pane/core/geometry/growable';
import type { Material, SolidResult, SolidSink } from '@gull-pane/core/solid/solid-model';
import { LEFT_OUT, soundMesh } from '../model/sound-mesh.ts';
import { GATHERED, VertexColours } from '../model/vertex-colours.ts';
import { ReadError } from '../read-error.ts';
import { Warnings } from '../warnings.ts';
import { POINTS_LEFT_OUT, soundPoints } from '../model/sound-points.ts';
import { NO_MATERIAL, readObj, type MeshObject, type MeshPart } from './read-obj.ts';
import { readPly } from './read-ply.ts';

export type MeshFormat = 'stl' | 'obj' | 'ply';

export interface MeshOptions {
  /** Objects that may be made; four times as many triangles. */
  readonly maxObjects: number;
  readonly onShare?: (share: number) => void;
}

const TRIANGLES_PER_OBJECT = 4;
/** A line of an OBJ's material file, as it is carried in the OBJ itself. */
const CARRIED = '#mtl ';
const LINE_END = 10;
/** Plain, as a cast: where no colours are told. */
const grey: Material = { name: 'Plain', colour: { r: 176, g: 182, b: 186, a: 255 }, metalness: 0.1, roughness: 0.7 };
const names: Readonly<Record<MeshFormat, string>> = { stl: 'STL', obj: 'OBJ', ply: 'PLY' };

/**
 * Reads a model of bare triangles. None of these formats tells its unit or which way is up: numbers are taken as
 * millimetres with Z up, and the report says so. An OBJ's colours lie in another file; its lines may stand in the OBJ as
 * comments that begin with `#mtl `.
 * @throws ReadError with what is wrong
 */
export function readMesh(bytes: Uint8Array, format: MeshFormat, sink: SolidSink, options: MeshOptions): SolidResult {
  const warnings = new Warnings('line');
  const objects = objectsOf(bytes, format, warnings);
  if (objects.length > options.maxObjects)
    throw new ReadError(
      'limit-exceeded',
      `The model has more than ${options.maxObjects} objects (GULL_PANE_MAX_ELEMENTS).`,
    );
  const layers: { name: string }[] = [];
  const layerOf = new Map<string, number>();
  const materials = format === 'obj' ? carriedMaterials(bytes) : [];
  const plain = materials.push(grey) - 1;
  const materialNamed = new Map(materials.map((material, number) => [material.name, number] as const).reverse());
  const most = TRIANGLES_PER_OBJECT * options.maxObjects;
  const vertexColours = new VertexColours(materials);
  const addLines = (object: number, { positions, edges }: MeshPart): void => {
    if (!edges) return;
    const isSound = (vertex: number): boolean => positions.subarray(3 * vertex, 3 * vertex + 3).every(Number.isFinite);
    const ends: number[] = [];
    for (let i = 0; i < edges.length; i += 2)
      if (isSound(edges[i]!) && isSound(edges[i + 1]!)) ends.push(edges[i]!, edges[i + 1]!);
    if (ends.length < edges.length)
      warnings.add('not-a-number', 'lines whose ends are no numbers are left out', 0, (edges.length - ends.length) / 2);
    if (ends.length === 0) return;
    const triangles = new Uint32Array(0);
    sink.part({ object, material: plain, positions, triangles, edges: Uint32Array.from(ends) });
  };
  const addPoints = (object: number, part: MeshPart): void => {
    const material = materialNamed.get(part.material) ?? plain;
    const { positions, colours, leftOut } = soundPoints(part.positions, part.colours ?? null);
    if (leftOut > 0) warnings.add('not-a-number', POINTS_LEFT_OUT, 0, leftOut);
    if (positions.length === 0) return;
    sink.part({ object, material, positions, triangles: new Uint32Array(0), points: { colours } });
  };
  let triangles = 0;
  objects.forEach(({ name, parts }, index) => {
    const layer = parts[0]?.material ?? NO_MATERIAL;
    let number = layerOf.get(layer);
    if (number === undefined) {
      number = layers.length;
      layerOf.set(layer, number);
      layers.push({ name: layer });
    }
    const object = sink.object({ name, node: -1, layer: number });
    for (const part of parts) {
      if (part.arePoints) {
        addPoints(object, part);
        continue;
      }
      const { positions, triangles: corners, leftOut } = soundMesh(part.positions, part.triangles);
      if (leftOut > 0) warnings.add('not-a-number', LEFT_OUT, 0, leftOut);
      addLines(object, part);
      triangles += corners.length / 3;
      if (triangles > most)
        throw new ReadError(
          'limit-exceeded',
          `The model has more than ${most} triangles (four times GULL_PANE_MAX_ELEMENTS).`,
        );
      const found = materialNamed.get(part.material);
      if (corners.length === 0) continue;
      const materialsOf =
        found === undefined && part.colours && leftOut === 0 ? vertexColours.of(part.colours, corners) : null;
      if (materialsOf) warnings.add('gathered', GATHERED, 0);
      sink.part({
        object,
        material: materialsOf?.[0] ?? found ?? plain,
        ...(materialsOf ? { materials: materialsOf } : {}),
        positions,
        triangles: corners,
      });
    }
    options.onShare?.((index + 1) / objects.length);
  });
  return {
    layers,
    materials,
    tree: [],
    cameras: [],
    warnings: warnings.list().map(({ code, message, count }) => ({ code, message, count })),
    frame: `${names[format]} tells neither its unit nor which way is up: taken as millimetres with Z up`,
  };
}

function objectsOf(bytes: Uint8Array, format: MeshFormat, warnings: Warnings): readonly MeshObject[] {
  try {
    if (format === 'obj') return objObjects(bytes, warnings);
    const inWords = format === 'stl' ? stlInWords(bytes) : null;
    if (inWords) return [{ name: 'Model', parts: [inWords] }];
    if (format === 'ply') {
      const part = readPly(bytes, warnings);
      return [{ name: part.arePoints ? 'Points' : 'Model', parts: [part] }];
    }
    const geometry = new STLLoader().parse(bytes.slice().buffer);
    return [{ name: 'Model', parts: geometry.hasAttribute('position') ? [partOf(geometry)] : [] }];
  } catch (error) {
    if (error instanceof ReadError) throw error;
    const reason = error instanceof Error ? error.message : String(error);
    throw new ReadError('damaged-file', `The ${names[format]} file can't be taken apart: ${reason}`);
  }
}

const STL_HEAD_BYTES = 84;
const STL_FACET_BYTES = 50;

/** The facets of an STL in words, their coordinates as doubles; null if it isn't in words. */
function stlInWords(bytes: Uint8Array): MeshPart | null {
  if (!/^\s*solid\b/.test(new TextDecoder().decode(bytes.subarray(0, 80)))) return null;
  if (bytes.length >= STL_HEAD_BYTES) {
    // a binary one may begin with that word, too
    const facets = new DataView(bytes.buffer, bytes.byteOffset).getUint32(STL_HEAD_BYTES - 4, true);
    if (bytes.length === STL_HEAD_BYTES + STL_FACET_BYTES * facets) return null;
  }
  const positions = new Growable(Float64Array);
  for (const [, x, y, z] of new TextDecoder().decode(bytes).matchAll(/\bvertex\s+(\S+)\s+(\S+)\s+(\S+)/g))
    positions.append([Number(x), Number(y), Number(z)]);
  const count = Math.floor(positions.length / 9) * 3;
  return {
    material: NO_MATERIAL,
    positions: positions.view().slice(0, 3 * count),
    triangles: Uint32Array.from({ length: count }, (_, i) => i),
  };
}

function partOf(geometry: BufferGeometry): MeshPart {
  const positions = Float64Array.from(geometry.getAttribute('position').array);
  const triangles = geometry.index
    ? Uint32Array.from(geometry.index.array)
    : Uint32Array.from({ length: positions.length / 3 }, (_, i) => i);
  return { material: NO_MATERIAL, positions, triangles };
}

function objObjects(bytes: Uint8Array, warnings: Warnings): readonly MeshObject[] {
  if (linesThatBegin(bytes, 'mtllib').length > 0 && linesThatBegin(bytes, CARRIED).length === 0)
    warnings.add(
      'not-supported',
      'colours lie in another file (mtllib) and are left out: surfaces are grey. Choose or drop both files together.',
      0,
    );
  return readObj(bytes, warnings);
}

/** What stands behind a word at the beginning of lines. */
function linesThatBegin(bytes: Uint8Array, word: string): string[] {
  const found: string[] = [];
  const wanted = Array.from(word, (letter) => letter.charCodeAt(0));
  for (let at = 0; at < bytes.length;) {
    const next = bytes.indexOf(LINE_END, at);
    const end = next < 0 ? bytes.length : next;
    if (wanted.every((byte, i) => bytes[at + i] === byte))
      found.push(new TextDecoder().decode(bytes.subarray(at + wanted.length, end)).trim());
    at = end + 1;
  }
  return found;
}

/** Materials by the lines that the OBJ carries: diffuse colour, opacity and gloss (the Phong exponent). */
function carriedMaterials(bytes: Uint8Array): Material[] {
  const lines = linesThatBegin(bytes, CARRIED);
  const { materialsInfo } = new MTLLoader().parse(lines.join('\n'), '') as unknown as {
    materialsInfo: Readonly<Record<string, { kd?: number[]; d?: string; tr?: string; ns?: string }>>;
  };
  const byte = (share: number | undefined): number =>
    Math.round(255 * Math.min(Math.max(Number.isFinite(share) ? share! : 0.7, 0), 1));
  return Object.entries(materialsInfo).map(([name, { kd = [], d, tr, ns }]) => {
    const opacity = d === undefined ? (tr === undefined ? 1 : 1 - Number.parseFloat(tr)) : Number.parseFloat(d);
    const gloss = ns === undefined ? 0 : Number.parseFloat(ns);
    return {
      name,
      colour: { r: byte(kd[0]), g: byte(kd[1]), b: byte(kd[2]), a: Number.isFinite(opacity) ? byte(opacity) : 255 },
      metalness: 0,
      // a Phong exponent as roughness: B. Karis, "Specular BRDF reference", 2013
      roughness: Math.sqrt(2 / (Math.max(gloss, 0) + 2)),
    };
  });
}
