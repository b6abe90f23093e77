import { gzipSync } from 'node:zlib';
import { bytesOf, type HostileFile, entriesOf } from './hostile-file.ts';

const line = '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h9" stroke="black"/></svg>';
const file = entriesOf('Hostile', (bytes: Uint8Array) => Uint8Array.from(bytes));

/** What is no drawing at all, or one in a wrapping that is broken. */
export const hostileAnyFile: readonly HostileFile[] = [
  file(
    'a compressed drawing that unpacks to three thousand million bytes',
    'limit-exceeded',
    () => {
      // members of a compressed file may follow one another (RFC 1952, 2.2)
      const blank = gzipSync(Buffer.alloc(60_000_000, ' '));
      return Buffer.concat([
        gzipSync('<svg xmlns="http://www.w3.org/2000/svg">'),
        ...Array.from({ length: 50 }, () => blank),
      ]);
    },
    { says: /unpacks to more than/ },
  ),
  file('a compressed drawing that is cut off', 'damaged-file', () => gzipSync(line).subarray(0, 50)),
  file('a compressed compressed drawing', 'bad-encoding', () => gzipSync(gzipSync(line))),
  file('ten megabytes of zeros', 'not-svg', () => new Uint8Array(10_000_000)),
  file('noise', 'not-svg', () => Uint8Array.from({ length: 1_000_000 }, (_, i) => (i * i * 31 + (i >> 3) * 17) & 0xff)),
  file('the beginning of a picture', 'damaged-file', () =>
    Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52]),
  ),
  file('words that are no drawing', 'not-svg', () =>
    bytesOf('Minutes of the meeting about the intake tower.\n'.repeat(10_000)),
  ),
  file('blanks alone', 'not-svg', () => bytesOf(' \n'.repeat(1000))),
];
