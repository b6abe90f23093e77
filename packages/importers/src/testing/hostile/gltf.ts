import { packGlb } from '@gull-pane/core/pyramid/glb';
import { bytesOf, type HostileFile, entriesOf } from './hostile-file.ts';

const asset = { version: '2.0' };
/** A triangle of a metre: three corners of 12 bytes. */
const corners = new Uint8Array(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0).buffer);
const triangle = {
  asset,
  buffers: [{ byteLength: 36 }],
  bufferViews: [{ buffer: 0, byteLength: 36 }],
  accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3' }],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
};
const file = entriesOf('Hostile.glb', (json: object) => packGlb(json, corners));
const series = <T>(count: number, of: (i: number) => T): T[] => Array.from({ length: count }, (_, i) => of(i));

/** Models in glTF with trees, counts and references that are too many, too deep or not there. */
export const hostileGltf: readonly HostileFile[] = [
  file(
    'a hundred thousand nodes of one triangle',
    'ready',
    () => ({
      ...triangle,
      nodes: series(100_000, (i) => ({ mesh: 0, translation: [i % 300, 0, Math.floor(i / 300)] })),
      scenes: [{ nodes: series(100_000, (i) => i) }],
    }),
    { counts: { objects: 100_000, triangles: 100_000 } },
  ),
  file(
    'nodes a hundred thousand deep',
    'ready',
    () => ({
      ...triangle,
      nodes: series(100_000, (i) => (i === 99_999 ? { mesh: 0 } : { children: [i + 1] })),
      scenes: [{ nodes: [0] }],
    }),
    { counts: { objects: 1 } },
  ),
  file(
    'a node that hangs on itself',
    'damaged-file',
    () => ({ ...triangle, nodes: [{ children: [1] }, { children: [0] }] }),
    {
      says: /hangs on itself/,
    },
  ),
  file(
    'a sparse accessor of half a thousand million',
    'limit-exceeded',
    () => ({
      ...triangle,
      accessors: [
        {
          componentType: 5126,
          count: 500_000_000,
          type: 'VEC3',
          sparse: { count: 1, indices: { bufferView: 0, componentType: 5125 }, values: { bufferView: 0 } },
        },
      ],
      nodes: [{ mesh: 0 }],
      scenes: [{ nodes: [0] }],
    }),
    { says: /numbers/ },
  ),
  file('a sparse accessor that names places beyond its end', 'nothing-to-draw', () => ({
    ...triangle,
    accessors: [
      {
        componentType: 5126,
        count: 3,
        type: 'VEC3',
        sparse: { count: 300, indices: { bufferView: 0, componentType: 5125 }, values: { bufferView: 0 } },
      },
    ],
    nodes: [{ mesh: 0 }],
    scenes: [{ nodes: [0] }],
  })),
  file(
    'an accessor beyond its buffer',
    'damaged-file',
    () => ({
      ...triangle,
      accessors: [{ bufferView: 0, componentType: 5126, count: 5, type: 'VEC3' }],
    }),
    { says: /reads to byte 60/ },
  ),
  file('a buffer said to be larger than it is', 'damaged-file', () => ({
    ...triangle,
    buffers: [{ byteLength: 2 ** 40 }],
  })),
  file(
    'a buffer in another file',
    'damaged-file',
    () => ({ asset, buffers: [{ byteLength: 8, uri: '../../secret.bin' }] }),
    {
      says: /buffer file.*secret.* is missing/,
    },
  ),
  file('corners that aren’t there', 'nothing-to-draw', () => ({
    ...triangle,
    accessors: [...triangle.accessors, { bufferView: 0, componentType: 5125, count: 9, type: 'SCALAR' }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
    nodes: [{ mesh: 0 }],
    scenes: [{ nodes: [0] }],
  })),
  file('references to meshes, accessors and materials that aren’t there', 'damaged-file', () => ({
    ...triangle,
    meshes: [{ primitives: [{ attributes: { POSITION: 7 }, indices: 9, material: 3 }] }],
    nodes: [{ mesh: 5 }, { mesh: 0 }],
    scenes: [{ nodes: [0, 1] }],
  })),
  file('scales that multiply beyond all numbers', 'nothing-to-draw', () => ({
    ...triangle,
    nodes: series(20, (i) =>
      i === 19 ? { mesh: 0, scale: [1e30, 1e30, 1e30] } : { children: [i + 1], scale: [1e30, 1e30, 1e30] },
    ),
    scenes: [{ nodes: [0] }],
  })),
  file(
    'a mesh of a hundred thousand parts',
    'ready',
    () => ({
      ...triangle,
      meshes: [{ primitives: series(100_000, () => ({ attributes: { POSITION: 0 } })) }],
      nodes: [{ mesh: 0 }],
      scenes: [{ nodes: [0] }],
    }),
    { counts: { objects: 1 } },
  ),
  file('instances by the thousand million', 'limit-exceeded', () => ({
    ...triangle,
    accessors: [...triangle.accessors, { componentType: 5126, count: 1_000_000_000, type: 'VEC3' }],
    extensionsUsed: ['EXT_mesh_gpu_instancing'],
    nodes: [{ mesh: 0, extensions: { EXT_mesh_gpu_instancing: { attributes: { TRANSLATION: 1 } } } }],
    scenes: [{ nodes: [0] }],
  })),
  {
    what: 'JSON a hundred thousand brackets deep',
    fileName: 'Hostile.gltf',
    answer: 'malformed-json',
    make: () => bytesOf(`{"asset":{"version":"2.0"},"extras":${'['.repeat(100_000)}${']'.repeat(99_999)}}`),
  },
  {
    what: 'a buffer of letters that are no base64',
    fileName: 'Hostile.gltf',
    answer: 'damaged-file',
    make: () =>
      bytesOf(
        JSON.stringify({ ...triangle, buffers: [{ byteLength: 36, uri: 'data:application/octet-stream;base64,*!*' }] }),
      ),
  },
];
