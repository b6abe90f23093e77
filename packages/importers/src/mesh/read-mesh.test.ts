import { describe, expect, it } from 'vitest';
import type { SolidObject, SolidPart } from '@gull-pane/core/solid/solid-model';
import { mayBeModel, modelFormatOf } from '../model/model-head.ts';
import { ReadError } from '../read-error.ts';
import { readMesh, type MeshFormat } from './read-mesh.ts';

function read(bytes: Uint8Array, format: MeshFormat, maxObjects = 1000) {
  const objects: SolidObject[] = [];
  const parts: SolidPart[] = [];
  const sink = {
    object: (object: SolidObject) => objects.push(object) - 1,
    part: (part: SolidPart) => void parts.push(part),
  };
  return { objects, parts, result: readMesh(bytes, format, sink, { maxObjects }) };
}
const textBytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const formatOf = (bytes: Uint8Array) => modelFormatOf(bytes, bytes.length);

/** Two triangles, 100 × 50 mm. */
const corners = [
  [0, 0, 0, 100, 0, 0, 100, 50, 0],
  [0, 0, 0, 100, 50, 0, 0, 50, 7],
] as const;
function binaryStl(): Uint8Array {
  const bytes = new Uint8Array(84 + 50 * corners.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, corners.length, true);
  corners.forEach((triangle, t) =>
    triangle.forEach((value, i) => view.setFloat32(84 + 50 * t + 12 + 4 * i, value, true)),
  );
  return bytes;
}
const wordStl = textBytes(
  `solid plate\n${corners
    .map((t) => {
      const vertex = (k: number): string => `vertex ${t.slice(3 * k, 3 * k + 3).join(' ')}`;
      return `facet normal 0 0 1\nouter loop\n${vertex(0)}\n${vertex(1)}\n${vertex(2)}\nendloop\nendfacet`;
    })
    .join('\n')}\nendsolid plate\n`,
);
const ply = textBytes(
  'ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face 2\n' +
    'property list uchar int vertex_indices\nend_header\n0 0 0\n100 0 0\n100 50 0\n0 50 7\n3 0 1 2\n3 0 2 3\n',
);
const obj = textBytes(
  '# plates\nmtllib paint.mtl\no Plate A\nusemtl Steel\nv 0 0 0\nv 100 0 0\nv 100 50 0\nv 0 50 7\nf 1 2 3\nf 1 3 4\n' +
    'o Plate B\nusemtl Brass\nf 1 2 3\n',
);

describe('a model of bare triangles', () => {
  it('is told by what it holds, not by its name', () => {
    expect(formatOf(binaryStl())).toBe('stl');
    expect(formatOf(wordStl)).toBe('stl');
    expect(formatOf(ply)).toBe('ply');
    expect(formatOf(obj)).toBe('obj');
    expect(formatOf(textBytes('{"asset":{"version":"2.0"},"meshes":[]}'))).toBe('gltf');
    expect(formatOf(textBytes('{"type":"FeatureCollection","asset":{},"features":[]}'))).toBeNull();
    expect(formatOf(textBytes('<svg xmlns="http://www.w3.org/2000/svg"/>'))).toBeNull();
    expect(formatOf(textBytes('a plain text, v 1 2 3 or not'))).toBeNull();
    expect(formatOf(textBytes(`${'# a note\n\n'.repeat(100)}o Plate\r\nv -1 .5 3\r\n`))).toBe('obj');
    // in no time: a pattern that tries all ways would never end
    expect(formatOf(textBytes(' \n'.repeat(2000)))).toBeNull();
  });

  it('doesn’t take the points of a PLY without faces for triangles', () => {
    const cloud = textBytes(
      'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nend_header\n' +
        '0 0 0\n100 0 0\n100 50 0\n',
    );
    const { parts, result } = read(cloud, 'ply');
    expect(parts).toHaveLength(1);
    expect(parts[0]).toMatchObject({ points: { colours: null }, triangles: new Uint32Array(0) });
    expect([...parts[0]!.positions]).toEqual([0, 0, 0, 100, 0, 0, 100, 50, 0]);
    expect(result.warnings).toEqual([]);
  });

  it.each([
    ['binary_little_endian', true],
    ['binary_big_endian', false],
  ])('keeps the doubles and the colours of a PLY, %s', (format, isLittle) => {
    const head = textBytes(
      `ply\nformat ${format} 1.0\ncomment Kelpie Sound\nelement vertex 4\nproperty double x\nproperty double y\nproperty double z\n` +
        'property uchar red\nproperty uchar green\nproperty uchar blue\nelement face 1\n' +
        'property list uchar int vertex_indices\nend_header\n',
    );
    const places = [412_600_000.123, 7_216_000_000.25, -3, 412_601_000.123, 7_216_000_000.25, -3];
    places.push(412_601_000.123, 7_216_001_000.25, -3, 412_600_000.123, 7_216_001_000.25, -3);
    const body = new DataView(new ArrayBuffer(4 * 27 + 17));
    for (let vertex = 0; vertex < 4; vertex++) {
      for (let axis = 0; axis < 3; axis++)
        body.setFloat64(27 * vertex + 8 * axis, places[3 * vertex + axis]!, isLittle);
      body.setUint8(27 * vertex + 24, 200);
    }
    body.setUint8(108, 4);
    for (let k = 0; k < 4; k++) body.setInt32(109 + 4 * k, k, isLittle);
    const { parts, result } = read(Uint8Array.from([...head, ...new Uint8Array(body.buffer)]), 'ply');
    expect([...parts[0]!.positions]).toEqual(places);
    expect([...parts[0]!.triangles]).toEqual([0, 1, 2, 0, 2, 3]);
    expect(result.materials[parts[0]!.material]!.colour).toMatchObject({ r: 204, g: 0, b: 0 });
  });

  it('takes the points of an OBJ as points', () => {
    const { parts } = read(
      textBytes('v 412600000.123 7216000000.25 1\nv 1 2 3\nv 4 5 6\no Pegs\np 1 -1\np 99\n'),
      'obj',
    );
    expect(parts.map(({ points, positions }) => [points, [...positions]])).toEqual([
      [{ colours: null }, [412_600_000.123, 7_216_000_000.25, 1, 4, 5, 6]],
    ]);
  });

  it('has the colours of its vertices, as OBJ and as PLY', () => {
    const square = [
      [0, 0, 255, 0, 0],
      [9, 0, 255, 0, 0],
      [9, 9, 255, 0, 0],
      [20, 0, 0, 0, 255],
      [29, 0, 0, 0, 255],
      [29, 9, 0, 0, 255],
    ] as const;
    const asObj = `${square.map(([x, y, r, g, b]) => `v ${x} ${y} 0 ${r / 255} ${g / 255} ${b / 255}\n`).join('')}f 1 2 3\nf 4 5 6\nl 1 4\n`;
    const colour = ['red', 'green', 'blue'].map((name) => `property uchar ${name}\n`).join('');
    const asPly = `ply\nformat ascii 1.0\nelement vertex 6\nproperty float x\nproperty float y\nproperty float z\n${colour}element face 2\nproperty list uchar int vertex_indices\nend_header\n${square.map(([x, y, ...rgb]) => `${x} ${y} 0 ${rgb.join(' ')}\n`).join('')}3 0 1 2\n3 3 4 5\n`;
    for (const [text, format] of [
      [asObj, 'obj'],
      [asPly, 'ply'],
    ] as const) {
      const { parts, result } = read(textBytes(text), format);
      const surface = parts.find(({ triangles }) => triangles.length > 0)!;
      const colours = Array.from(surface.materials!, (material) => result.materials[material]!.colour);
      expect(colours).toEqual([
        { r: 255, g: 0, b: 0, a: 255 },
        { r: 0, g: 0, b: 255, a: 255 },
      ]);
      expect(result.warnings.map(({ code }) => code)).toEqual(['gathered']);
      if (format === 'obj') expect(parts.filter(({ edges }) => edges?.length === 2)).toHaveLength(1);
    }
  });

  it('keeps the doubles of an STL in words', () => {
    const words = textBytes(
      'solid far\nfacet normal 0 0 1\nouter loop\nvertex 412600500.125 7208400250.375 1\nvertex 412600501 7208400250 1\n' +
        'vertex 412600500 7208400251 1\nendloop\nendfacet\nendsolid far\n',
    );
    const [part] = read(words, 'stl').parts;
    expect([...part!.positions]).toContain(412600500.125);
    expect([...part!.positions]).toContain(7208400250.375);
  });

  it('may be told from its beginning alone, but a picture is none', () => {
    expect(mayBeModel(binaryStl())).toBe(true);
    expect(mayBeModel(Uint8Array.from({ length: 200 }, (_, i) => [0x89, 0x50, 0x4e, 0x47, 0xff, 0xd8][i % 6]!))).toBe(
      false,
    );
  });

  it.each([
    ['STL, binary', binaryStl(), 'stl'],
    ['STL, in words', wordStl, 'stl'],
    ['PLY', ply, 'ply'],
  ] as const)('comes in as %s: two triangles in their box, units told', (_, bytes, format) => {
    const { parts, result } = read(bytes, format);
    expect(parts[0]!.triangles.length).toBe(6);
    const used = [...parts[0]!.triangles].map((vertex) => [
      ...parts[0]!.positions.subarray(3 * vertex, 3 * vertex + 3),
    ]);
    expect([0, 1, 2].map((axis) => Math.max(...used.map((corner) => corner[axis]!)))).toEqual([100, 50, 7]);
    expect(result.frame).toContain('neither its unit nor which way is up');
  });

  it('comes in as OBJ with its objects by name and its materials as layers', () => {
    const { objects, result } = read(obj, 'obj');
    expect(objects.map(({ name }) => name)).toEqual(['Plate A', 'Plate B']);
    expect(result.layers.map(({ name }) => name)).toEqual(['Steel', 'Brass']);
    expect(result.warnings.map(({ message }) => message).join()).toContain('mtllib');
  });

  it('has the colours that an OBJ carries as comments', () => {
    const paint = ['newmtl Brass', 'Kd 0.8 0.6 0.2', 'd 0.5', '# a note', 'newmtl Steel', 'Kd 0.2 0.4 1', 'Ns 98'];
    const carried = textBytes(`${new TextDecoder().decode(obj)}${paint.map((line) => `#mtl ${line}`).join('\n')}\n`);
    const { parts, result } = read(carried, 'obj');
    expect(parts.map(({ material }) => result.materials[material])).toEqual([
      { name: 'Steel', colour: { r: 51, g: 102, b: 255, a: 255 }, metalness: 0, roughness: Math.sqrt(2 / 100) },
      { name: 'Brass', colour: { r: 204, g: 153, b: 51, a: 128 }, metalness: 0, roughness: 1 },
    ]);
    expect(result.warnings).toEqual([]);
    // a line that tells nothing sane harms nothing
    const wild = textBytes(`${new TextDecoder().decode(obj)}#mtl newmtl Steel\n#mtl Kd x\n#mtl \n`);
    expect(read(wild, 'obj').parts).toHaveLength(2);
  });

  it('says what is wrong with it', () => {
    const cutOff =
      'ply\nformat binary_little_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nend_header\n';
    expect(() => read(textBytes(cutOff), 'ply')).toThrow(ReadError);
    expect(() => read(obj, 'obj', 1)).toThrow(/more than 1 objects/);
    const wild = textBytes('o a\nv 0 0 0\nv 1 0 nan\nv 0 1 0\nv 1 1 0\nf 1 2 3\nf 1 3 4\n');
    const { parts, result } = read(wild, 'obj');
    // the facet that can't be drawn is left out and said, the good one stays
    expect(result.warnings[0]).toMatchObject({ code: 'not-a-number', count: 1 });
    expect(parts.map(({ triangles }) => triangles.length)).toEqual([3]);
  });
});
