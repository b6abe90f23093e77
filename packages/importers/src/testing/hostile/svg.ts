import { bytesOf, comb, times, type HostileFile, entriesOf } from './hostile-file.ts';

const svg = (content: string, before = ''): Uint8Array<ArrayBuffer> =>
  bytesOf(`${before}<svg xmlns="http://www.w3.org/2000/svg">${content}</svg>`);
const line = '<path d="M0 0h9" stroke="black"/>';
const file = entriesOf<Uint8Array<ArrayBuffer>>('Hostile.svg', (bytes) => bytes);

/** Drawings in SVG that take much for little, go round in circles or tell no sane numbers. */
export const hostileSvg: readonly HostileFile[] = [
  file(
    'ninety thousand groups within one another',
    'ready',
    () => svg(`${'<g>'.repeat(90_000)}${line}${'</g>'.repeat(90_000)}`),
    {
      counts: { objects: 1 },
    },
  ),
  file('groups without end', 'limit-exceeded', () => svg('<g>'.repeat(200_000)), {
    says: /nested more than 100000 deep/,
  }),
  file(
    'use of use of use, a thousand million times',
    'limit-exceeded',
    () =>
      svg(
        `<g id="u0">${line}</g>${times(9, (i) => `<g id="u${i + 1}">${`<use href="#u${i}"/>`.repeat(10)}</g>`)}<use href="#u9"/>`,
      ),
    { says: /more than \d+ elements/ },
  ),
  file(
    'use of nothing, a thousand million times',
    'limit-exceeded',
    () =>
      svg(
        `${line}<g id="u0"/>${times(9, (i) => `<g id="u${i + 1}">${`<use href="#u${i}"/>`.repeat(10)}</g>`)}<use href="#u9"/>`,
      ),
    { says: /repeats more than/ },
  ),
  file('use in a ring', 'ready', () =>
    svg(`${line}<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g><use href="#a"/>`),
  ),
  file(
    'entities that grow one another',
    'limit-exceeded',
    () =>
      svg('<text>&b;</text>', `<!DOCTYPE svg [<!ENTITY a "${'x'.repeat(1000)}"><!ENTITY b "${'&a;'.repeat(1000)}">]>`),
    {
      says: /beyond 100000 characters/,
    },
  ),
  file(
    'entities in a ring',
    'limit-exceeded',
    () => svg('<text>&a;</text>', '<!DOCTYPE svg [<!ENTITY a "&b;"><!ENTITY b "&a;">]>'),
    {
      says: /refers to itself/,
    },
  ),
  file('an entity that is another file', 'nothing-to-draw', () =>
    svg('<text>&a;</text>', '<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/hostname">]>'),
  ),
  file(
    'a fill of two hundred thousand corners that crosses itself everywhere',
    'ready',
    () => svg(`<polygon points="${times(200_000, (i) => `${(i * 7919) % 1000},${(i * 104729) % 1000} `)}"/>`),
    { counts: { objects: 1 } },
  ),
  file(
    'a comb of two hundred thousand corners',
    'ready',
    () =>
      svg(
        `<polygon points="${comb(200_000)
          .map(([x, y]) => `${x},${y}`)
          .join(' ')}"/>`,
      ),
    { counts: { objects: 1 } },
  ),
  file(
    'a path of a million points',
    'ready',
    () => svg(`<path fill="none" stroke="black" d="M0 0${times(1_000_000, (i) => `L${i} ${i % 7}`)}"/>`),
    {
      counts: { objects: 1, segments: 1_000_000 },
    },
  ),
  file(
    'fifty thousand ids and classes',
    'ready',
    () => svg(times(50_000, (i) => `<path id="p${i}" class="c${i}" d="M${i} 0h1" stroke="red"/>`)),
    { counts: { objects: 50_000 } },
  ),
  file(
    'twenty thousand named groups',
    'ready',
    () => svg(times(20_000, (i) => `<g id="g${i}"><path d="M${i} 0h1" stroke="red"/></g>`)),
    { counts: { objects: 20_000 } },
  ),
  file('five thousand rules for five thousand elements', 'ready', () =>
    svg(
      `<style>${times(5000, (i) => `.c${i}, .c${i} > path { stroke: rgb(${i % 255},0,0) }`)}</style><g>${times(5000, (i) => `<path class="c${i}" d="M${i} 0h1"/>`)}</g>`,
    ),
  ),
  file(
    'a rule of many descendants over deep groups',
    'ready',
    () =>
      svg(
        `<style>.none ${'g '.repeat(40)}path { stroke: red }</style>${'<g>'.repeat(300)}${line.repeat(100)}${'</g>'.repeat(300)}`,
      ),
    { counts: { objects: 100 } },
  ),
  file('a rule for each of fifty thousand groups within one another', 'ready', () =>
    svg(
      `<style>a g { stroke: red } g > path { stroke: blue }</style>${'<g>'.repeat(50_000)}${line}${'</g>'.repeat(50_000)}`,
    ),
  ),
  file('a clip of five thousand corners over a thousand lines', 'ready', () =>
    svg(
      `<clipPath id="c"><polygon points="${times(5000, (i) => `${1000 * Math.cos(i / 796)},${1000 * Math.sin(i / 796) * (i % 2 ? 1 : 0.9)} `)}"/></clipPath><g clip-path="url(#c)">${times(1000, (i) => `<path d="M-2000 ${i - 500}H2000" stroke="black"/>`)}</g>`,
    ),
  ),
  file('a pattern of a millionth of a mm over a square kilometre', 'ready', () =>
    svg(
      `${line}<pattern id="p" width="1e-6" height="1e-6" patternUnits="userSpaceOnUse"><path d="M0 0h1e-6" stroke="black" stroke-width="1e-7"/></pattern><rect width="1e6" height="1e6" fill="url(#p)"/>`,
    ),
  ),
  file('patterns in a ring', 'ready', () =>
    svg(
      `${line}${times(2, (i) => `<pattern id="p${i}" width="5" height="5" patternUnits="userSpaceOnUse"><rect width="5" height="5" fill="url(#p${1 - i})"/></pattern>`)}<rect width="100" height="100" fill="url(#p0)"/>`,
    ),
  ),
  file('gradients in a ring', 'ready', () =>
    svg(
      `<linearGradient id="a" href="#b"/><linearGradient id="b" href="#a"/><rect width="9" height="9" fill="url(#a)" stroke="black"/>`,
    ),
  ),
  file('clips and markers in a ring', 'ready', () =>
    svg(
      `${line}<clipPath id="c" clip-path="url(#c)"><rect width="5" height="5"/></clipPath><marker id="m"><path d="M0 0h1" stroke="black" marker-start="url(#m)"/></marker><path clip-path="url(#c)" marker-start="url(#m)" d="M0 0h4v4" stroke="black"/>`,
    ),
  ),
  file(
    'markers at every one of a hundred thousand corners',
    'limit-exceeded',
    () =>
      svg(
        `<marker id="m"><path d="M0 0h1M0 1h1M0 2h1" stroke="black"/><path d="M0 0v1" stroke="black"/><path d="M0 0v2" stroke="black"/></marker><path marker-mid="url(#m)" fill="none" stroke="black" d="M0 0${times(100_000, (i) => `L${i} ${i % 3}`)}"/>`,
      ),
    { says: /more than \d+ elements/ },
  ),
  file('dashes of a millionth of a mm along a kilometre', 'ready', () =>
    svg('<path d="M0 0h1e6" stroke="black" stroke-dasharray="1e-6 1e-6"/>'),
  ),
  file('arcs of a radius beyond all bounds', 'ready', () =>
    svg(`${line}<path stroke="black" d="M0 0A1e300 1e300 0 1 1 5 5A1e-300 1e-300 0 1 1 9 9"/><circle r="1e200"/>`),
  ),
  file('numbers that are none, or far too large', 'ready', () =>
    svg(`${line}<path d="M1e308 0L-1e308 1e308" stroke="red"/><circle r="NaN"/><path d="M0 0L1e400 5" stroke="red"/>`),
  ),
  file('transforms that multiply beyond all numbers', 'ready', () =>
    svg(`${line}${'<g transform="scale(1e30)">'.repeat(20)}<path d="M1 1h1" stroke="red"/>${'</g>'.repeat(20)}`),
  ),
  file('one text of five million letters', 'ready', () => svg(`${line}<text>${'Kelpie '.repeat(714_000)}</text>`)),
  file('a text with a place for each of a hundred thousand letters', 'ready', () =>
    svg(`<text x="${times(100_000, (i) => `${i} `)}" y="5">${'k'.repeat(100_000)}</text>`),
  ),
  file('a million elements of no known name', 'ready', () => svg(`${line}${'<nothing a="b"/>'.repeat(1_000_000)}`)),
  file('an attribute of twenty million letters', 'ready', () =>
    svg(`${line}<g data-note="${'x'.repeat(20_000_000)}"/>`),
  ),
  file('an element of a hundred thousand attributes', 'ready', () =>
    svg(`${line}<g ${times(100_000, (i) => `a${i}="" `)}/>`),
  ),
  file('letters that no XML may hold', 'malformed-xml', () => svg('<text>\0\u0001</text>')),
  file('UTF-16 that ends within a letter', 'bad-encoding', () =>
    Uint8Array.from([
      0xff,
      0xfe,
      ...[...'<svg xmlns="http://www.w3.org/2000/svg"/>'].flatMap((c) => [c.charCodeAt(0), 0]),
      0x3c,
    ]),
  ),
];
