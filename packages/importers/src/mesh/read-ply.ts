import { Growable } from '@gull-pane/core/geometry/growable';
import { numberIn } from '../points/number-bytes.ts';
import { ReadError } from '../read-error.ts';
import type { Warnings } from '../warnings.ts';
import { NO_MATERIAL, type MeshPart } from './read-obj.ts';
import { triangulated } from './triangulated.ts';

type Kind = 'int8' | 'uint8' | 'int16' | 'uint16' | 'int32' | 'uint32' | 'float32' | 'float64';

/** Names of types, those of the first description and those that came to be written later. */
const kinds: Readonly<Record<string, Kind>> = {
  char: 'int8',
  uchar: 'uint8',
  short: 'int16',
  ushort: 'uint16',
  int: 'int32',
  uint: 'uint32',
  float: 'float32',
  double: 'float64',
  int8: 'int8',
  uint8: 'uint8',
  int16: 'int16',
  uint16: 'uint16',
  int32: 'int32',
  uint32: 'uint32',
  float32: 'float32',
  float64: 'float64',
} as const;
const bytesOf: Readonly<Record<Kind, number>> = {
  int8: 1,
  uint8: 1,
  int16: 2,
  uint16: 2,
  int32: 4,
  uint32: 4,
  float32: 4,
  float64: 8,
};

interface Property {
  readonly name: string;
  readonly kind: Kind;
  /** Of the count that stands before a list. */
  readonly countKind: Kind | null;
}

interface Element {
  readonly name: string;
  readonly count: number;
  readonly properties: Property[];
}

interface Head {
  readonly format: 'ascii' | 'binary_little_endian' | 'binary_big_endian';
  readonly elements: Element[];
  /** Where the values begin, byte. */
  readonly end: number;
}

/** Most bytes of a head. */
const MOST_HEAD_BYTES = 1 << 20;
/** Names of the channels of colours. */
const channels = [
  ['red', 'green', 'blue'],
  ['diffuse_red', 'diffuse_green', 'diffuse_blue'],
  ['r', 'g', 'b'],
] as const;

/**
 * Reads a PLY (G. Turk, "The PLY polygon file format", 1994), in words or binary: vertices with their colours, faces of
 * any shape, edges. Coordinates are doubles where the file has doubles. Without faces and edges the vertices are points.
 * @throws ReadError if the head can't be understood, or the values end too soon
 */
export function readPly(bytes: Uint8Array, warnings: Warnings): MeshPart {
  const head = headOf(bytes);
  const values = head.format === 'ascii' ? inWords(bytes, head.end) : inBytes(bytes, head);
  const positions = new Growable(Float64Array);
  const colours = new Growable(Uint8Array);
  const triangles = new Growable(Uint32Array);
  const edges = new Growable(Uint32Array);
  let tangled = 0;
  let missing = 0;
  for (const element of head.elements) {
    const names = element.properties.map(({ name }) => name);
    const rgb = channels.map((three) => three.map((name) => names.indexOf(name))).find((at) => !at.includes(-1));
    const isShare = rgb !== undefined && element.properties[rgb[0]!]!.kind.startsWith('float');
    const [x, y, z] = ['x', 'y', 'z'].map((name) => names.indexOf(name)) as [number, number, number];
    const corners = names.findIndex((name) => name === 'vertex_indices' || name === 'vertex_index');
    const [one, other] = [names.indexOf('vertex1'), names.indexOf('vertex2')];
    const isVertex = element.name === 'vertex';
    if (isVertex && Math.min(x, y, z) < 0)
      throw new ReadError('damaged-file', 'The PLY file’s vertices have no x, y and z.');
    if (!['vertex', 'face', 'edge'].includes(element.name) && element.count > 0)
      warnings.add('not-supported', `elements “${element.name.slice(0, 40)}” are left out`, 0, element.count);
    const row = element.properties.map((): number => 0);
    let list: number[] = [];
    for (let i = 0; i < element.count; i++) {
      for (let place = 0; place < element.properties.length; place++) {
        const { kind, countKind } = element.properties[place]!;
        if (!countKind) {
          row[place] = values(kind, element.name, i);
          continue;
        }
        const length = values(countKind, element.name, i);
        if (!(length >= 0)) throw cutOff(element.name, i);
        const isWanted = place === corners && element.name === 'face';
        if (isWanted) list = [];
        for (let k = 0; k < length; k++) {
          const value = values(kind, element.name, i);
          if (isWanted) list.push(value);
        }
      }
      if (isVertex) {
        positions.push(row[x]!);
        positions.push(row[y]!);
        positions.push(row[z]!);
        if (rgb) for (const at of rgb) colours.push(byteOf(row[at]!, isShare));
      } else if (element.name === 'edge' && one >= 0 && other >= 0) edges.append([row[one]!, row[other]!]);
      else if (element.name === 'face' && list.length > 2) {
        const xyz = positions.view();
        if (list.some((vertex) => !(vertex >= 0 && vertex < xyz.length / 3))) {
          missing++;
          continue;
        }
        const face = triangulated(list, xyz);
        if (!face) tangled++;
        else {
          const like = list[0]!;
          triangles.append(face.triangles);
          positions.append(face.places);
          if (rgb) for (let k = 0; k < face.places.length; k++) colours.push(colours.at(3 * like + (k % 3)));
        }
      }
    }
  }
  if (missing > 0)
    warnings.add('left-out', 'faces that refer to vertices which the file doesn’t have are left out', 0, missing);
  if (tangled > 0)
    warnings.add('left-out', 'faces that cross themselves too often to be filled are left out', 0, tangled);
  const hasFaces = head.elements.some(({ name, count }) => count > 0 && (name === 'face' || name === 'edge'));
  return {
    material: NO_MATERIAL,
    positions: positions.view().slice(),
    triangles: triangles.view().slice(),
    ...(edges.length > 0 ? { edges: edges.view().slice() } : {}),
    ...(colours.length > 0 ? { colours: colours.view().slice() } : {}),
    ...(hasFaces ? {} : { arePoints: true }),
  };
}

const byteOf = (value: number, isShare: boolean): number =>
  Math.round(Math.min(Math.max(isShare ? 255 * value : value, 0), 255)) || 0;

const cutOff = (element: string, index: number): ReadError =>
  new ReadError('damaged-file', `The PLY file ends, or can't be read, at ${element.slice(0, 40)} ${index + 1}.`);

function headOf(bytes: Uint8Array): Head {
  const elements: Element[] = [];
  let format: string | undefined;
  let at = 0;
  const most = Math.min(bytes.length, MOST_HEAD_BYTES);
  while (at < most) {
    let end = bytes.indexOf(10, at);
    if (end < 0) end = bytes.length;
    const line = new TextDecoder('latin1').decode(bytes.subarray(at, end)).trim();
    at = end + 1;
    const [word, ...rest] = line.split(/\s+/);
    if (word === 'format') format = rest[0];
    else if (word === 'element') elements.push({ name: rest[0] ?? '', count: countIn(rest[1]), properties: [] });
    else if (word === 'property') elements.at(-1)?.properties.push(propertyIn(rest));
    else if (word === 'end_header') {
      if (format !== 'ascii' && format !== 'binary_little_endian' && format !== 'binary_big_endian')
        throw new ReadError('damaged-file', `The PLY file’s format “${String(format).slice(0, 40)}” isn't known.`);
      return { format, elements, end: at };
    }
  }
  throw new ReadError('damaged-file', 'The head of the PLY file has no end.');
}

function countIn(word: string | undefined): number {
  const count = Number(word);
  if (Number.isSafeInteger(count) && count >= 0) return count;
  throw new ReadError('damaged-file', `“${String(word).slice(0, 40)}” in the head of the PLY file is no count.`);
}

function propertyIn(words: readonly string[]): Property {
  const isList = words[0] === 'list';
  const [countKind, kind] = isList ? [kinds[words[1] ?? ''], kinds[words[2] ?? '']] : [null, kinds[words[0] ?? '']];
  if (kind && countKind !== undefined) return { name: words.at(-1)!, kind, countKind };
  throw new ReadError(
    'damaged-file',
    `The PLY file has a property of an unknown type: ${words.join(' ').slice(0, 80)}.`,
  );
}

/** Gives one value after the other. */
type Values = (kind: Kind, element: string, index: number) => number;

function inWords(bytes: Uint8Array, from: number): Values {
  let at = from;
  return (_kind, element, index) => {
    while (at < bytes.length && bytes[at]! <= 32) at++;
    if (at >= bytes.length) throw cutOff(element, index);
    const begin = at;
    while (at < bytes.length && bytes[at]! > 32) at++;
    return numberIn(bytes, begin, at);
  };
}

function inBytes(bytes: Uint8Array, { format, end }: Head): Values {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isLittle = format === 'binary_little_endian';
  let at = end;
  return (kind, element, index) => {
    const place = at;
    at += bytesOf[kind];
    if (at > bytes.length) throw cutOff(element, index);
    switch (kind) {
      case 'int8':
        return view.getInt8(place);
      case 'uint8':
        return view.getUint8(place);
      case 'int16':
        return view.getInt16(place, isLittle);
      case 'uint16':
        return view.getUint16(place, isLittle);
      case 'int32':
        return view.getInt32(place, isLittle);
      case 'uint32':
        return view.getUint32(place, isLittle);
      case 'float32':
        return view.getFloat32(place, isLittle);
      case 'float64':
        return view.getFloat64(place, isLittle);
    }
  };
}
