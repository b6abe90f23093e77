import { createRequire } from 'node:module';
import { Document, WebIO } from '@gltf-transform/core';
import {
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMeshQuantization,
} from '@gltf-transform/extensions';
import { MeshoptDecoder, MeshoptEncoder } from 'meshoptimizer';
import { beforeAll, describe, expect, it } from 'vitest';
import { packGlb } from '@gull-pane/core/pyramid/glb';
import type { SolidObject, SolidPart } from '@gull-pane/core/solid/solid-model';
import { ReadError } from '../read-error.ts';
import { readGltf } from './read-gltf.ts';

// the package has a CommonJS build and no types
const draco = createRequire(import.meta.url)('draco3dgltf') as {
  createDecoderModule(): Promise<unknown>;
  createEncoderModule(): Promise<unknown>;
};

const options = {
  maxObjects: 100_000,
  draco: () => draco.createDecoderModule(),
  meshopt: () => MeshoptDecoder.ready.then(() => MeshoptDecoder),
};

async function read(bytes: Uint8Array, more = {}) {
  const objects: SolidObject[] = [];
  const parts: SolidPart[] = [];
  const sink = {
    object: (object: SolidObject) => objects.push(object) - 1,
    part: (part: SolidPart) => void parts.push(part),
  };
  const result = await readGltf(bytes, sink, { ...options, ...more });
  return { objects, parts, result };
}

/** The box of a part, millimetres. */
function boxOf({ positions }: Pick<SolidPart, 'positions'>): number[] {
  const axes = [0, 1, 2].map((axis) => positions.filter((_, i) => i % 3 === axis));
  return [...axes.map((values) => Math.min(...values)), ...axes.map((values) => Math.max(...values))];
}

/** A wedge of 1 × 2 × 3 m hung into a hall, with a second one turned and twice as large. */
function sample(): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const position = document
    .createAccessor()
    .setType('VEC3')
    .setBuffer(buffer)
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 2, 0, 0, 0, 3]));
  const indices = document
    .createAccessor()
    .setType('SCALAR')
    .setBuffer(buffer)
    .setArray(new Uint16Array([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]));
  const paint = document.createMaterial('Coral').setBaseColorFactor([1, 0.2, 0.1, 1]).setMetallicFactor(0.25);
  const mesh = document.createMesh('wedge');
  mesh.addPrimitive(
    document.createPrimitive().setAttribute('POSITION', position).setIndices(indices).setMaterial(paint),
  );
  const hall = document.createNode('Hall').setTranslation([412_506, 0, -7_208_414]);
  const pumps = document
    .createNode('Pumps')
    .addChild(document.createNode('KS-PU-201').setMesh(mesh).setExtras({ flow: 12 }));
  const big = document
    .createNode('Big')
    .setMesh(mesh)
    .setScale([2, 2, 2])
    .setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]);
  const valves = document.createNode('Valves').addChild(big);
  const eye = document.createNode('Eye').setCamera(document.createCamera('eye').setType('perspective').setYFov(0.7));
  hall.addChild(pumps).addChild(valves).addChild(eye);
  document.createScene().addChild(hall);
  return document;
}
const bytesOf = (document: Document, io = new WebIO()): Promise<Uint8Array> => io.writeBinary(document);

describe('a glTF model', () => {
  let bytes: Uint8Array;
  beforeAll(async () => {
    bytes = await bytesOf(sample());
  });

  it('comes in with names, layers, materials, properties, millimetres and Z up', async () => {
    const { objects, parts, result } = await read(bytes);
    expect(objects.map(({ name }) => name)).toEqual(['KS-PU-201', 'Big']);
    expect(objects[0]!.facts).toEqual(['flow: 12']);
    expect(result.layers.map(({ name }) => name)).toEqual(['Pumps', 'Valves']);
    expect(result.materials[0]).toMatchObject({ name: 'Coral', metalness: 0.25, colour: { r: 255, a: 255 } });
    expect(result.frame).toContain('metres');
    // (x, y, z) in metres with Y up is (x, −z, y) in millimetres with Z up
    expect(boxOf(parts[0]!)).toEqual([412_506_000, 7_208_411_000, 0, 412_507_000, 7_208_414_000, 2000]);
    // turned a quarter about the upright and twice as large: 6 m east, 2 m north
    boxOf(parts[1]!).forEach((value, i) =>
      expect(Math.abs(value - [412_506_000, 7_208_414_000, 0, 412_512_000, 7_208_416_000, 4000][i]!)).toBeLessThan(
        0.01,
      ),
    );
  });

  it('keeps its cameras', async () => {
    const { result } = await read(bytes);
    expect(result.cameras).toEqual([
      expect.objectContaining({
        name: 'Eye',
        projection: 'perspective',
        fovRad: 0.7,
        eye: [412_506_000, 7_208_414_000, 0],
      }),
    ]);
  });

  it('is the same as JSON with its buffer inside', async () => {
    const { json, resources } = await new WebIO().writeJSON(sample());
    const uri = json.buffers![0]!.uri!;
    json.buffers![0]!.uri = `data:application/octet-stream;base64,${Buffer.from(resources[uri]!).toString('base64')}`;
    const { parts } = await read(new TextEncoder().encode(JSON.stringify(json)));
    expect(boxOf(parts[0]!)).toEqual(boxOf((await read(bytes)).parts[0]!));
  });

  it.each(['draco', 'meshopt', 'quantized'])('is the same when it is %s', async (way) => {
    const document = sample();
    const io = new WebIO();
    if (way === 'draco') {
      document.createExtension(KHRDracoMeshCompression).setRequired(true);
      io.registerExtensions([KHRDracoMeshCompression]);
      io.registerDependencies({ 'draco3d.encoder': await draco.createEncoderModule() });
    } else if (way === 'meshopt') {
      await MeshoptEncoder.ready;
      document.createExtension(EXTMeshoptCompression).setRequired(true);
      io.registerExtensions([EXTMeshoptCompression]);
      io.registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
    } else {
      document.createExtension(KHRMeshQuantization).setRequired(true);
      io.registerExtensions([KHRMeshQuantization]);
      const accessor = document.getRoot().listAccessors()[0]!;
      const corners = Array.from({ length: accessor.getCount() }, (_, i) => accessor.getElement(i, [0, 0, 0]));
      accessor.setArray(Uint16Array.from(corners.flat()));
    }
    const { parts } = await read(await bytesOf(document, io));
    expect(parts.map(({ triangles }) => triangles.length)).toEqual([12, 12]);
    boxOf(parts[0]!).forEach((value, i) =>
      expect(Math.abs(value - [412_506_000, 7_208_411_000, 0, 412_507_000, 7_208_414_000, 2000][i]!)).toBeLessThan(0.5),
    );
  });

  it('makes triangles of strips and fans, edges of lines, and turns mirrored parts round', async () => {
    const document = new Document();
    const buffer = document.createBuffer();
    const position = document.createAccessor().setType('VEC3').setBuffer(buffer);
    position.setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0, 1]));
    const scene = document.createScene();
    for (const mode of [5, 6, 2] as const) {
      const primitive = document.createPrimitive().setAttribute('POSITION', position).setMode(mode);
      scene.addChild(document.createNode(`Mode ${mode}`).setMesh(document.createMesh().addPrimitive(primitive)));
    }
    const flat = document.createPrimitive().setAttribute('POSITION', position).setMode(6);
    scene.addChild(
      document.createNode('Mirror').setScale([-1, 1, 1]).setMesh(document.createMesh().addPrimitive(flat)),
    );
    const { parts } = await read(await bytesOf(document));
    expect([...parts[0]!.triangles]).toEqual([0, 1, 2, 1, 3, 2]);
    expect([...parts[1]!.triangles]).toEqual([0, 1, 2, 0, 2, 3]);
    expect([...parts[2]!.edges!]).toEqual([0, 1, 1, 2, 2, 3, 3, 0]);
    expect([...parts[3]!.triangles]).toEqual([0, 2, 1, 0, 3, 2]);
  });
});

describe('what glTF can say of many and of colours', () => {
  /** A triangle of a metre, red at its first corner or all over, at a few places. */
  async function instances(colours: readonly number[], places: readonly number[]) {
    const document = new Document();
    const buffer = document.createBuffer();
    const accessor = (type: 'VEC3' | 'VEC4', array: Float32Array<ArrayBuffer>) =>
      document.createAccessor().setType(type).setBuffer(buffer).setArray(array);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', new Float32Array([0, 0, 0, 1, 0, 0, 0, 0, 1])))
      .setAttribute('COLOR_0', accessor('VEC3', Float32Array.from(colours)));
    const instancing = document.createExtension(EXTMeshGPUInstancing).setRequired(true);
    const mesh = document.createMesh().addPrimitive(primitive);
    const node = document
      .createNode('Bolt')
      .setTranslation([0, 5, 0])
      .setMesh(mesh)
      .setExtension(
        'EXT_mesh_gpu_instancing',
        instancing.createInstancedMesh().setAttribute('TRANSLATION', accessor('VEC3', Float32Array.from(places))),
      );
    document.createScene().addChild(node);
    return read(await bytesOf(document, new WebIO().registerExtensions([EXTMeshGPUInstancing])));
  }

  it('instances are objects of their own, each where it stands', async () => {
    const { objects, parts } = await instances([1, 0, 0, 1, 0, 0, 1, 0, 0], [0, 0, 0, 10, 0, 0, 20, 1, 0]);
    expect(objects.map(({ name }) => name)).toEqual(['Bolt 1', 'Bolt 2', 'Bolt 3']);
    expect(parts.map((part) => boxOf(part).slice(0, 3))).toEqual([
      [0, -1000, 5000],
      [10_000, -1000, 5000],
      [20_000, -1000, 6000],
    ]);
    // one shape at three places
    expect(new Set(parts.map(({ shape }) => shape!.key)).size).toBe(1);
  });

  it('triangles have the colours of their corners', async () => {
    const { parts, result } = await instances([1, 0, 0, 1, 0, 0, 1, 0, 0], [0, 0, 0]);
    expect(result.materials[parts[0]!.materials![0]!]!.colour).toEqual({ r: 255, g: 0, b: 0, a: 255 });
    expect(result.warnings.map(({ code }) => code)).toContain('gathered');
  });

  it('triangles have the mean colour of what lies on them of a picture', async () => {
    const document = new Document();
    const buffer = document.createBuffer();
    const accessor = (type: 'VEC2' | 'VEC3', array: number[]) =>
      document.createAccessor().setType(type).setBuffer(buffer).setArray(Float32Array.from(array));
    const texture = document.createTexture('halves').setImage(Uint8Array.of(7)).setMimeType('image/png');
    const paint = document.createMaterial('Paint').setBaseColorTexture(texture).setBaseColorFactor([1, 1, 0, 1]);
    const primitive = document
      .createPrimitive()
      .setMaterial(paint)
      .setAttribute('POSITION', accessor('VEC3', [0, 0, 0, 1, 0, 0, 0, 0, 1, 5, 0, 0, 6, 0, 0, 5, 0, 1]))
      // the left half of the picture, then, once round, the right one
      .setAttribute('TEXCOORD_0', accessor('VEC2', [0, 0, 0.4, 0, 0, 0.4, 1.6, 0, 1.9, 0, 1.6, 0.9]));
    document.createScene().addChild(document.createNode().setMesh(document.createMesh().addPrimitive(primitive)));
    const bytes = await bytesOf(document);
    // a red px, then a white one
    const picture = () => Promise.resolve({ widthPx: 2, heightPx: 1, rgb: Uint8Array.of(255, 0, 0, 255, 255, 255) });
    const { parts, result } = await read(bytes, { picture });
    const colours = Array.from(parts[0]!.materials!, (material) => {
      const { r, g, b, a } = result.materials[material]!.colour;
      return [r, g, b, a];
    });
    expect(colours).toEqual([
      [255, 0, 0, 255],
      [255, 255, 0, 255],
    ]);
    const unread = await read(bytes, { picture: () => Promise.reject(new Error('broken')) });
    expect(unread.parts[0]!.materials).toBeUndefined();
    expect(unread.result.warnings.map(({ message }) => message).join()).toContain('pictures that can’t be read');
  });

  it('single objects without number share a layer', async () => {
    const document = new Document();
    const position = document.createAccessor().setType('VEC3').setBuffer(document.createBuffer());
    position.setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 0, 1]));
    const mesh = document.createMesh().addPrimitive(document.createPrimitive().setAttribute('POSITION', position));
    const scene = document.createScene();
    for (let k = 0; k < 1500; k++) scene.addChild(document.createNode(`Bolt ${k}`).setMesh(mesh));
    const { objects, result } = await read(await bytesOf(document));
    expect([objects.length, result.layers.length]).toEqual([1500, 1001]);
    expect(result.layers.at(-1)!.name).toBe('Other objects');
  });
});

describe('a hostile glTF file', () => {
  const asset = { version: '2.0' };
  const refuse = async (json: unknown, bin = new Uint8Array(64), more = {}): Promise<ReadError> => {
    const error: unknown = await read(packGlb(json, bin), more).then(
      () => null,
      (reason: unknown) => reason,
    );
    expect(error).toBeInstanceOf(ReadError);
    return error as ReadError;
  };
  const oneView = { asset, buffers: [{ byteLength: 64 }], bufferViews: [{ buffer: 0, byteLength: 48 }] };

  it.each([
    [
      'accessors out of range',
      { ...oneView, accessors: [{ bufferView: 0, componentType: 5126, count: 5, type: 'VEC3' }] },
      /Accessor 0 reads to byte 60/,
    ],
    [
      'views beyond their buffer',
      { ...oneView, bufferViews: [{ buffer: 0, byteOffset: 40, byteLength: 48 }] },
      /view 0 reaches beyond/,
    ],
    ['a buffer said to be larger than it is', { asset, buffers: [{ byteLength: 1 << 30 }] }, /said to hold 1073741824/],
    [
      'a buffer elsewhere',
      { asset, buffers: [{ byteLength: 8, uri: '../secret.bin' }] },
      /buffer file .*secret.* is missing: choose or drop both together/,
    ],
    ['a node that hangs on itself', { asset, nodes: [{ children: [1] }, { children: [0] }] }, /hangs on itself/],
    ['a node on two others', { asset, nodes: [{ children: [2] }, { children: [2] }, {}] }, /hangs on two others/],
    ['a child that is missing', { asset, nodes: [{ children: [7] }] }, /child 7 that isn't there/],
    ['another version', { asset: { version: '1.0' } }, /only version 2/],
    ['what it can’t do without', { asset, extensionsRequired: ['ACME_magic'] }, /without ACME_magic/],
  ])('is refused for %s', async (_, json, message) => {
    expect((await refuse(json)).message).toMatch(message);
  });

  it('is refused for huge counts before memory is taken', async () => {
    const error = await refuse({ asset, accessors: [{ componentType: 5126, count: 4e9, type: 'VEC3' }] });
    expect(error.code).toBe('limit-exceeded');
  });

  it('is refused for more objects than allowed', async () => {
    const bytes = await bytesOf(sample());
    await expect(read(bytes, { maxObjects: 1 })).rejects.toThrow(/more than 1 objects/);
  });

  it('is refused, or read, but never breaks, when it is cut off anywhere', async () => {
    const bytes = await bytesOf(sample());
    for (let length = 4; length < bytes.length; length += 37)
      await expect(read(bytes.slice(0, length))).rejects.toBeInstanceOf(ReadError);
  });
});
