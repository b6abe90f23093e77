import { bytesOf, comb, entriesOf, times, type Entry, type HostileFile } from './hostile-file.ts';

type Content = string | Uint8Array<ArrayBuffer>;
const entries = (fileName: string): Entry<Content> =>
  entriesOf(fileName, (content) => (typeof content === 'string' ? bytesOf(content) : content));
const [obj, stl, ply] = [entries('Hostile.obj'), entries('Hostile.stl'), entries('Hostile.ply')];
const square = 'v 0 0 0\nv 9 0 0\nv 9 9 0\nv 0 9 0\n';
const plyHead = (format: string, vertices: number, faces: number): string =>
  `ply\nformat ${format} 1.0\nelement vertex ${vertices}\nproperty float x\nproperty float y\nproperty float z\nelement face ${faces}\nproperty list uchar int vertex_indices\nend_header\n`;

/** A binary STL that says so many triangles and holds others. */
function binaryStl(said: number, held: number, corner: (i: number) => number): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(84 + 50 * held);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, said, true);
  for (let t = 0; t < held; t++)
    for (let i = 0; i < 9; i++) view.setFloat32(84 + 50 * t + 12 + 4 * i, corner(9 * t + i), true);
  return bytes;
}

/** Models of bare triangles in OBJ, STL and PLY: faces of too many corners, counts that lie, corners that are missing. */
export const hostileMesh: readonly HostileFile[] = [
  obj(
    'a face of two hundred thousand corners that isn’t convex',
    'ready',
    () => {
      const outline = comb(200_000);
      return `o Comb\n${outline.map(([x, y]) => `v ${x} ${y} 0\n`).join('')}f ${outline.map((_, i) => i + 1).join(' ')}\n`;
    },
    { counts: { objects: 1 } },
  ),
  obj(
    'a face of a hundred thousand corners that crosses itself everywhere',
    'nothing-to-draw',
    () =>
      `${times(100_000, (i) => `v ${(i * 7919) % 1000} ${(i * 104_729) % 1000} 0\n`)}f ${times(100_000, (i) => `${i + 1} `)}\n`,
    { says: /cross themselves/i },
  ),
  obj('one line of a million pieces', 'ready', () => `${square}f ${times(1_000_000, () => '\\\n')}1 2 3\n`, {
    counts: { triangles: 1 },
  }),
  obj(
    'a hundred thousand objects of a triangle',
    'ready',
    () => `${square}${times(100_000, (i) => `o Plate ${i}\nf 1 2 3\n`)}`,
    {
      counts: { objects: 100_000 },
    },
  ),
  obj('corners that aren’t there', 'nothing-to-draw', () => `${square}f 1 2 99\nf -9 1 2\nf 0 1 2\nf x y z\nf\n`),
  obj(
    'coordinates that are no numbers',
    'nothing-to-draw',
    () => 'v nan 0 0\nv 1e999 0 0\nv a b c\nv\nf 1 2 3\nf 2 3 4\n',
  ),
  obj('triangles that share one place', 'ready', () => `${square}f 1 2 3\n${times(1000, () => 'f 1 1 1\n')}`),
  stl('four thousand million triangles, said and not held', 'not-svg', () => binaryStl(0xffffffff, 2, (i) => i)),
  stl('a million triangles in one place', 'ready', () =>
    binaryStl(200_000, 200_000, (i) => [0, 0, 0, 9, 0, 0, 0, 9, 0][i % 9]!),
  ),
  stl('coordinates that are no numbers', 'not-svg', () => binaryStl(2, 2, () => Number.NaN)),
  stl(
    'words that end within a triangle',
    'ready',
    () =>
      'solid s\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 9 0 0\nvertex 0 9 0\nendloop\nendfacet\nfacet normal 0 0 1\nouter loop\nvertex 1',
  ),
  ply('four thousand million corners, said and not held', 'damaged-file', () =>
    plyHead('binary_little_endian', 4_000_000_000, 1),
  ),
  ply('a face that says more corners than the file holds', 'damaged-file', () =>
    Uint8Array.from([...bytesOf(plyHead('binary_little_endian', 1, 1)), ...new Uint8Array(12), 255, 0, 0]),
  ),
  ply('corners that aren’t there', 'nothing-to-draw', () => `${plyHead('ascii', 3, 1)}0 0 0\n9 0 0\n0 9 0\n3 0 1 77\n`),
  ply(
    'a head without an end',
    'damaged-file',
    () => `ply\nformat ascii 1.0\n${'comment Kelpie Sound\n'.repeat(200_000)}`,
  ),
];
