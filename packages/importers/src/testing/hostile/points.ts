import { bytesOf, entriesOf, times, type HostileFile } from './hostile-file.ts';

const [list, ply] = [entriesOf('Hostile.xyz', bytesOf), entriesOf('Hostile cloud.ply', bytesOf)];

/** Lists and clouds of points: very many, far apart, all in one place, lines that are none. */
export const hostilePoints: readonly HostileFile[] = [
  list('three hundred thousand points in one place', 'ready', () => times(300_000, () => '412600.5 7208400.25 3\n'), {
    counts: { objects: 1 },
  }),
  list(
    'a hundred thousand points of a name each',
    'ready',
    () => `id,x,y,z\n${times(100_000, (i) => `KS-${i},${i},${i % 317},0\n`)}`,
    { counts: { objects: 1 } },
  ),
  list('a hundred thousand codes', 'ready', () => `x,y,z,code\n${times(100_000, (i) => `${i},${i % 317},0,C${i}\n`)}`, {
    counts: { objects: 1000 },
  }),
  list('a line of ten million characters', 'damaged-file', () => `1 2 3\n4 5 6\n${'7'.repeat(10_000_000)} 8 9\n`, {
    says: /longer than/,
  }),
  list('places as far apart as numbers go', 'ready', () => '1e300 0 0\n-1e300 0 0\n0 1e-300 0\n'),
  list('numbers that are none', 'not-svg', () => 'x y z\n1 2 nan\n1 2 inf\n'.repeat(9)),
  ply(
    'points of which most are no numbers',
    'ready',
    () =>
      `ply\nformat ascii 1.0\nelement vertex 100000\nproperty double x\nproperty double y\nproperty double z\nend_header\n${times(100_000, (i) => (i % 9 === 0 ? `${i} 0 0\n` : 'nan nan nan\n'))}`,
    { says: /no numbers/ },
  ),
  ply(
    'a list that says a thousand million values',
    'damaged-file',
    () => 'ply\nformat ascii 1.0\nelement vertex 1\nproperty list uint float x\nend_header\n1000000000 1 2 3\n',
  ),
];
