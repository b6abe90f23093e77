import { GLB_BUFFER, WebIO, type GLTF } from '@gltf-transform/core';
import { EXTMeshGPUInstancing, KHRMeshQuantization, type InstancedMesh } from '@gltf-transform/extensions';
import { expect, it } from 'vitest';
import { rotate } from '@gull-pane/core/geometry/quaternion';
import { unpackGlb } from '@gull-pane/core/pyramid/glb';
import { encodeSolidTile } from '@gull-pane/core/solid/encode-solid-tile';
import { ShapePack } from '@gull-pane/core/solid/packed-shape';
import { ShapePacks } from '@gull-pane/core/solid/shape-packs';
import { SolidItems } from '@gull-pane/core/solid/solid-items';
import { decodeSolidTile } from '@gull-pane/core/solid/solid-tile';
import { cube, tube } from '@gull-pane/core/solid/test-shapes';

const coral = { name: 'Coral', colour: { r: 255, g: 111, b: 97, a: 255 }, metalness: 0, roughness: 1 };
const origin = { x: 412_506_000, y: 7_208_414_000, z: 0 };
const reader = new WebIO().registerExtensions([EXTMeshGPUInstancing, KHRMeshQuantization]);

it('our own tiles are glTF that another reader reads', async () => {
  const items = new SolidItems();
  for (const x of [0, 300]) {
    const { positions, triangles } = cube(100, [origin.x + x, origin.y, 0]);
    items.add({ object: 0, material: 0, positions, triangles });
  }
  const { bytes } = encodeSolidTile(items.tilePieces([0, 1]), origin, [coral]);
  const document = await reader.readBinary(bytes);
  const primitives = document.getRoot().listMeshes()[0]!.listPrimitives();
  expect(primitives.map((primitive) => primitive.getMode())).toEqual([4, 1]);
  expect(primitives[0]!.getIndices()!.getCount()).toBe(72);
  expect(primitives[0]!.getMaterial()!.getName()).toBe('Coral');
  // two cubes of twelve edges each
  expect(primitives[1]!.getAttribute('POSITION')!.getCount()).toBe(48);
});

it('shapes of our tiles that lie in packs are instances that another reader places alike', async () => {
  const shape = tube(300, 800, 12);
  const items = new SolidItems();
  const turn = [0, -1, 0, 1, 0, 0, 0, 0, 1];
  for (let k = 0; k < 5; k++) {
    const isTurned = k % 2 === 1;
    const positions = shape.positions.map((_, i) => {
      const [x, y, z] = shape.positions.subarray(
        3 * Math.floor(i / 3),
        3 * Math.floor(i / 3) + 3,
      ) as unknown as number[];
      const own = isTurned ? [-2 * y! + 900 * k, 2 * x!, 2 * z!] : [x! + 900 * k, y!, z!];
      return own[i % 3]!;
    });
    const upright = [1, 0, 0, 0, 1, 0, 0, 0, 1];
    const { triangles } = shape;
    items.add({ object: k, material: 0, positions, triangles, shape: { key: shape, turn: isTurned ? turn : upright } });
  }
  const packs = new ShapePacks();
  const { bytes } = encodeSolidTile(items.tilePieces([0, 1, 2, 3, 4]), { x: 0, y: 0, z: 0 }, [coral], packs);
  const files = packs.finish();
  const { json, bin } = unpackGlb(bytes) as { json: GLTF.IGLTF; bin: Uint8Array<ArrayBuffer> };
  const resources = { [GLB_BUFFER]: bin, ...Object.fromEntries(files.map((file) => [file.name, file.bytes])) };
  const document = await reader.readJSON({ json, resources });
  const [node] = document.getRoot().listNodes();
  const placed = node!.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing')!;
  const corners = node!.getMesh()!.listPrimitives()[0]!.getAttribute('POSITION')!;
  const tile = decodeSolidTile(bytes, new Map(files.map((file) => [file.name, new ShapePack(file.bytes)])));
  const [shift, quaternion, size] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) => placed.getAttribute(name)!);
  for (let k = 0; k < 5; k++) {
    const [x, y, z, w] = quaternion!.getElement<number[]>(k, []) as [number, number, number, number];
    for (let vertex = 0; vertex < corners.getCount(); vertex++) {
      const [px, py, pz] = corners.getElement(vertex, []).map((value, i) => value * size!.getElement(k, [])[i]!);
      const turned = rotate({ x, y, z, w }, { x: px!, y: py!, z: pz! });
      const [sx, sy, sz] = shift!.getElement<number[]>(k, []) as [number, number, number];
      // Y up
      const [east, up, south] = [turned.x + sx, turned.y + sy, turned.z + sz];
      const at = 3 * (k * corners.getCount() + vertex);
      const ours = tile.positions.subarray(at, at + 3);
      expect(Math.max(...[east, -south, up].map((value, i) => Math.abs(value - ours[i]!)))).toBeLessThan(0.002);
    }
  }
});
