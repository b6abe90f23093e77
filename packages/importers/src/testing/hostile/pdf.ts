import { deflateSync } from 'node:zlib';
import { comb, times, type HostileFile, entriesOf } from './hostile-file.ts';

/** A body of a PDF with its table of places (ISO 32000-2, 7.5); object 1 is the catalogue. */
function pdf(objects: readonly (string | Buffer)[], trailer = ''): Uint8Array<ArrayBuffer> {
  const parts: Buffer[] = [Buffer.from('%PDF-1.7\n')];
  let at = parts[0]!.length;
  const places = objects.map((object, i) => {
    const place = at;
    const part = Buffer.concat([Buffer.from(`${i + 1} 0 obj\n`), Buffer.from(object), Buffer.from('\nendobj\n')]);
    parts.push(part);
    at += part.length;
    return place;
  });
  const table = `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('')}`;
  parts.push(
    Buffer.from(`${table}trailer\n<</Size ${objects.length + 1}/Root 1 0 R${trailer}>>\nstartxref\n${at}\n%%EOF\n`),
  );
  return Uint8Array.from(Buffer.concat(parts));
}
const stream = (content: string | Buffer, dictionary = ''): Buffer => {
  const packed = deflateSync(content);
  return Buffer.concat([
    Buffer.from(`<<${dictionary}/Filter/FlateDecode/Length ${packed.length}>>stream\n`),
    packed,
    Buffer.from('\nendstream'),
  ]);
};
const CATALOGUE = '<</Type/Catalog/Pages 2 0 R>>';
const onePage = (
  content: string | Buffer,
  resources = '',
  box = '0 0 595 842',
  ...more: (string | Buffer)[]
): Uint8Array<ArrayBuffer> =>
  pdf([
    CATALOGUE,
    '<</Type/Pages/Kids[3 0 R]/Count 1>>',
    `<</Type/Page/Parent 2 0 R/MediaBox[${box}]/Contents 4 0 R/Resources<<${resources}>>>>`,
    stream(content),
    ...more,
  ]);
const line = '0 0 m 90 0 l S\n';
const form = (content: string, resources: string): Buffer =>
  stream(content, `/Type/XObject/Subtype/Form/BBox[0 0 999 999]/Resources<<${resources}>>`);
const file = entriesOf<Uint8Array<ArrayBuffer>>('Hostile.pdf', (bytes) => bytes);

/** PDF files whose parts go round in circles, unpack beyond all bounds or claim what they don't hold. */
export const hostilePdf: readonly HostileFile[] = [
  file(
    'a page tree that is a ring',
    'ready',
    () => pdf([CATALOGUE, '<</Type/Pages/Kids[3 0 R]/Count 1>>', '<</Type/Pages/Parent 2 0 R/Kids[2 0 R]/Count 1>>']),
    { says: /a page can’t be read/ },
  ),
  file('a page tree ten thousand deep', 'ready', () =>
    pdf([CATALOGUE, ...Array.from({ length: 10_000 }, (_, i) => `<</Type/Pages/Kids[${i + 3} 0 R]/Count 1>>`)]),
  ),
  file('a thousand million pages, none of them there', 'nothing-to-draw', () =>
    pdf([CATALOGUE, '<</Type/Pages/Kids[]/Count 1000000000>>']),
  ),
  file('a page that unpacks to three hundred megabytes of nothing', 'ready', () =>
    onePage(Buffer.concat([Buffer.from(line), Buffer.alloc(300_000_000, ' ')])),
  ),
  file('a page that unpacks to fifty megabytes of lines', 'limit-exceeded', () => onePage(line.repeat(3_250_000))),
  file('a form that draws itself', 'ready', () =>
    onePage(`${line}/F Do`, '/XObject<</F 5 0 R>>', '0 0 595 842', form(`${line}/F Do`, '/XObject<</F 5 0 R>>')),
  ),
  file('forms that multiply to a thousand million lines', 'limit-exceeded', () =>
    onePage(
      '/F Do\n'.repeat(10),
      '/XObject<</F 5 0 R>>',
      '0 0 595 842',
      ...Array.from({ length: 9 }, (_, i) =>
        form(i === 8 ? line : '/F Do\n'.repeat(10), i === 8 ? '' : `/XObject<</F ${i + 6} 0 R>>`),
      ),
    ),
  ),
  file('a path of a million points', 'ready', () =>
    onePage(`0 0 m ${times(1_000_000, (i) => `${i % 595} ${i % 842} l `)}S`),
  ),
  file('an area of two hundred thousand corners that isn’t convex', 'ready', () =>
    onePage(
      comb(200_000)
        .map(([x, y], i) => `${x} ${y} ${i ? 'l' : 'm'}`)
        .join(' ') + ' f',
    ),
  ),
  file(
    'a million states that are kept and never left',
    'limit-exceeded',
    () => onePage(`${'q '.repeat(1_000_000)}${line}`),
    { says: /graphics states/ },
  ),
  file('half a million states that are left and never kept', 'ready', () => onePage(`${'Q '.repeat(500_000)}${line}`)),
  file('a sheet of a light year', 'ready', () => onePage(line, '', '0 0 1e15 1e15')),
  file('a sheet of no size', 'ready', () => onePage(line, '', '0 0 0 0')),
  file('a matrix that multiplies beyond all numbers', 'ready', () =>
    onePage(`${line}${'1e30 0 0 1e30 0 0 cm '.repeat(20)}${line}`),
  ),
  file('dashes of a millionth of a point', 'ready', () => onePage(`[1e-6 1e-6] 0 d ${line}`)),
  file('a table of places that refers to itself', 'ready', () => {
    const text = Buffer.from(onePage(line)).toString('latin1');
    const at = text.lastIndexOf('xref\n0');
    return Uint8Array.from(Buffer.from(text.replace('/Root 1 0 R', `/Root 1 0 R/Prev ${at}`), 'latin1'));
  }),
  file('a tiling pattern of a thousandth of a point', 'ready', () =>
    onePage(
      `${line}/Pattern cs /P scn 0 0 595 842 re f`,
      '/Pattern<</P 5 0 R>>',
      '0 0 595 842',
      stream(
        '0 0 1 1 re f',
        '/Type/Pattern/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 1 1]/XStep .001/YStep .001/Resources<<>>',
      ),
    ),
  ),
  file('nothing but the head', 'malformed-pdf', () => Uint8Array.from(Buffer.from('%PDF-1.7\n%%EOF'))),
];
