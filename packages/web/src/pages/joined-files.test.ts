import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { unpackGlb } from '@gull-pane/core/pyramid/glb';
import { joinedFiles } from './joined-files';

const obj = new File(['mtllib Plate.mtl\no Plate\nusemtl Brass\nv 0 0 0\n'], 'Plate.obj');
const paint = new File(['newmtl Brass\nKd 1 0 0\n'], 'Plate.mtl');
const corners = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0);
const more = Uint8Array.of(1, 2, 3);
const gltf = new File(
  [
    JSON.stringify({
      asset: { version: '2.0' },
      buffers: [
        { uri: 'parts/one%20half.bin', byteLength: 36 },
        { uri: 'other.bin', byteLength: 3 },
      ],
      bufferViews: [
        { buffer: 0, byteLength: 36 },
        { buffer: 1, byteOffset: 1, byteLength: 2 },
      ],
    }),
  ],
  'Hall.gltf',
);
const buffers = [new File([corners], 'one half.bin'), new File([more], 'other.bin')];

describe('files that are dropped together', () => {
  it('an OBJ carries its materials; what belongs to none stays by itself', async () => {
    const plan = new File(['<svg/>'], 'Plan.svg');
    const { drawings, packages } = await joinedFiles([paint, plan, obj]);
    expect(drawings.map(({ name }) => name)).toEqual(['Plan.svg', 'Plate.obj']);
    expect(await drawings[1]!.text()).toContain('#mtl Kd 1 0 0');
    expect(packages).toEqual([]);
    expect((await joinedFiles([paint])).drawings).toEqual([paint]);
  });

  it('a glTF and its buffers become one file with the same parts', async () => {
    const { drawings } = await joinedFiles([gltf, ...buffers]);
    expect(drawings.map(({ name }) => name)).toEqual(['Hall.glb']);
    const { json, bin } = unpackGlb(new Uint8Array(await drawings[0]!.arrayBuffer()));
    const { bufferViews } = json as { bufferViews: { buffer: number; byteOffset: number }[] };
    const [first, second] = [bufferViews[0]!, bufferViews[1]!];
    expect([first.buffer, second.buffer]).toEqual([0, 0]);
    expect(new Float32Array(bin.slice(first.byteOffset, first.byteOffset + 36).buffer)).toEqual(corners);
    expect(bin.slice(second.byteOffset, second.byteOffset + 2)).toEqual(Uint8Array.of(2, 3));
  });

  it('a glTF whose buffer is missing is sent as it is', async () => {
    expect((await joinedFiles([gltf, buffers[0]!])).drawings).toEqual([gltf, buffers[0]]);
    const broken = new File(['{'], 'Broken.gltf');
    expect((await joinedFiles([broken])).drawings).toEqual([broken]);
  });

  it('archives are taken apart, packages aren’t', async () => {
    const zip = (parts: Record<string, string>, name: string): File =>
      new File([zipSync(Object.fromEntries(Object.entries(parts).map(([path, text]) => [path, strToU8(text)])))], name);
    const archive = zip({ 'hall/Plate.obj': await obj.text(), 'hall/Plate.mtl': await paint.text() }, 'Hall.zip');
    const own = zip({ 'manifest.json': '{}' }, 'Package.zip');
    const broken = new File(['PK no archive'], 'Broken.zip');
    const { drawings, packages } = await joinedFiles([archive, own, broken]);
    expect(drawings.map(({ name }) => name)).toEqual(['Plate.obj']);
    expect(await drawings[0]!.text()).toContain('#mtl newmtl Brass');
    expect(packages).toEqual([own, broken]);
  });

  it('a plan and a glTF carry the pictures that they name', async () => {
    const photo = new File([Uint8Array.of(1, 2, 3)], 'Weir 3.jpg');
    const plan = new File(['<svg><image href="photos/Weir%203.jpg"/><use href="#a"/></svg>'], 'Plan.svg');
    const worn = new File(
      [JSON.stringify({ buffers: [{ uri: 'other.bin', byteLength: 3 }], images: [{ uri: 'Weir%203.jpg' }] })],
      'Worn.gltf',
    );
    const { drawings } = await joinedFiles([photo, plan, worn, buffers[1]!]);
    expect(drawings.map(({ name }) => name)).toEqual(['Plan.svg', 'Worn.glb']);
    expect(await drawings[0]!.text()).toBe('<svg><image href="data:image/jpeg;base64,AQID"/><use href="#a"/></svg>');
    const { json, bin } = unpackGlb(new Uint8Array(await drawings[1]!.arrayBuffer()));
    expect(json).toMatchObject({
      images: [{ bufferView: 0, mimeType: 'image/jpeg' }],
      bufferViews: [{ buffer: 0, byteOffset: 8, byteLength: 3 }],
    });
    expect([...bin.subarray(8, 11)]).toEqual([1, 2, 3]);
    expect((await joinedFiles([photo])).drawings).toEqual([photo]);
  });

  it('a picture lies where its world file says', async () => {
    const ortho = new File([Uint8Array.of(1, 2, 3)], 'Ortho 7.tif');
    const world = new File(['0.5\n0.25\n-0.25\n-0.5\n100.5\n200.5\n'], 'Ortho 7.tfw');
    const { drawings } = await joinedFiles([world, ortho]);
    expect(drawings.map(({ name }) => name)).toEqual(['Ortho 7.svg']);
    const text = await drawings[0]!.text();
    // the corner lies half a px to the left of and above the middle of the first px
    expect(text).toContain('matrix(500 -250 -250 500 100375 -200625)');
    expect(text).toContain('href="data:image/tiff;base64,AQID"');
    const broken = new File(['0.5 x'], 'Ortho 7.tfw');
    expect((await joinedFiles([broken, ortho])).drawings).toEqual([broken, ortho]);
  });
});
