import { deflateSync } from 'node:zlib';
import { bytesOf, entriesOf, times, type HostileFile } from './hostile-file.ts';

const [png, svg] = [
  entriesOf<Uint8Array<ArrayBuffer>>('Hostile.png', (bytes) => bytes),
  entriesOf('Hostile picture.svg', bytesOf),
];

/** A PNG of one grey, however large; its sums are right. */
function blankPng(width: number, height: number): Uint8Array<ArrayBuffer> {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head[8] = 8;
  const rows = Buffer.alloc((width + 1) * Math.min(height, 4000), 0);
  return Uint8Array.from(
    Buffer.concat([
      Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
      chunk('IHDR', head),
      chunk('IDAT', deflateSync(rows)),
      chunk('IEND', Buffer.alloc(0)),
    ]),
  );
}

function chunk(name: string, content: Buffer): Buffer {
  const whole = Buffer.alloc(12 + content.length);
  whole.writeUInt32BE(content.length, 0);
  whole.write(name, 4, 'latin1');
  content.copy(whole, 8);
  whole.writeUInt32BE(checksum(whole.subarray(4, 8 + content.length)), 8 + content.length);
  return whole;
}

/** CRC-32 (ISO 3309), as PNG uses it. */
function checksum(bytes: Buffer): number {
  let sum = 0xffffffff;
  for (const byte of bytes) {
    sum ^= byte;
    for (let k = 0; k < 8; k++) sum = (sum >>> 1) ^ (sum & 1 ? 0xedb88320 : 0);
  }
  return (sum ^ 0xffffffff) >>> 0;
}

const uri = (): string => `data:image/png;base64,${Buffer.from(blankPng(8, 8)).toString('base64')}`;
const inSvg = (content: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">${content}</svg>`;

/** Pictures that say more px than they hold, or than anybody could look at; very many of them; broken ones in a sound plan. */
export const hostilePictures: readonly HostileFile[] = [
  png('nine thousand million px', 'limit-exceeded', () => blankPng(95_000, 95_000), {
    says: /GULL_PANE_MAX_UNPACKED_MB/,
  }),
  png('px that aren’t there', 'damaged-file', () => blankPng(4000, 12_000)),
  png('no px at all', 'damaged-file', () => blankPng(0, 0)),
  svg(
    'ten thousand times one picture',
    'ready',
    () =>
      inSvg(
        `<defs><image id="p" width="8" height="8" href="${uri()}"/></defs>${times(10_000, (i) => `<use href="#p" x="${9 * (i % 100)}" y="${9 * Math.floor(i / 100)}"/>`)}`,
      ),
    { counts: { objects: 10_000 } },
  ),
  svg(
    'pictures that are cut off, broken, of no size and nowhere',
    'ready',
    () =>
      inSvg(
        `<path d="M0 0h9" stroke="black"/><image href="${uri().slice(0, 60)}"/><image href="data:image/png;base64,%%%"/>` +
          `<image href="data:,"/><image width="0" height="9" href="${uri()}"/><image x="1e300" width="9" height="9" href="${uri()}"/>`,
      ),
    { says: /left out/ },
  ),
  svg('a picture that holds its own plan', 'nothing-to-draw', () =>
    inSvg(`<image width="9" height="9" href="data:image/svg+xml;base64,${btoa(inSvg('<image href="#x"/>'))}"/>`),
  ),
];
