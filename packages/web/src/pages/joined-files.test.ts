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
    expect(drawings.map(({ name }) => name)).toEqual(['Plate.obj', 'Plan.svg']);
    expect(await drawings[0]!.text()).toContain('#mtl Kd 1 0 0');
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
});
