import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Op, countSegments, type Path } from '@gull-pane/core/drawing/path';
import { boxOf, faultOf, readWhole as read } from './read-whole.ts';

const svg = (content: string, attributes = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${content}</svg>`;
const stroked = (content: string): string => svg(`<g stroke="black" fill="none">${content}</g>`);
const path = (d: string): Path => read(stroked(`<path d="${d}"/>`)).paths[0]!.path;
describe('path data', () => {
  const cases: [string, string, number[], number][] = [
    ['absolute lines', 'M1 2L3 4', [1, -4, 3, -2], 1],
    ['relative lines', 'm1 2l3 4', [1, -6, 4, -2], 1],
    ['repeats after a move are lines', 'M0 0 10 0 10 10', [0, -10, 10, 0], 2],
    ['repeats after a relative move', 'm1 1 2 0 0 2', [1, -3, 3, -1], 2],
    ['no separators', 'M1-2.5.5-3L-3-4', [-3, 2.5, 1, 4], 2],
    ['exponents', 'M1e2 2E-1l1e+1.5', [100, -0.7, 110, -0.2], 1],
    ['across and upright', 'M1 1H5V9h-1v-1', [1, -9, 5, -1], 4],
    ['closing draws the line back', 'M0 0H4V3Z', [0, -3, 4, 0], 3],
    ['closing at the start draws none', 'M0 0H4V3L0 0Z', [0, -3, 4, 0], 3],
    ['relative to the start after a close', 'M2 2h2v2zm1 1h5', [2, -4, 8, -2], 4],
    ['two runs', 'M0 0h1M5 5h1', [0, -5, 6, 0], 2],
    ['cubic by its turning points', 'M0 0C0 4 10 4 10 0', [0, -3, 10, 0], 1],
    ['smooth cubic mirrors the control', 'M0 0C0 4 10 4 10 0S20-4 20 0', [0, -3, 20, 3], 2],
    ['quadratic', 'M0 0Q5 10 10 0', [0, -5, 10, 0], 1],
    ['smooth quadratic', 'M0 0Q5 10 10 0T20 0', [0, -5, 20, 5], 2],
    ['smooth without a curve before is straight', 'M0 0H5T10 0', [0, 0, 10, 0], 2],
    ['a half circle', 'M-5 0A5 5 0 0 1 5 0', [-5, 0, 5, 5], 1],
    ['the other half', 'M-5 0A5 5 0 0 0 5 0', [-5, -5, 5, 0], 1],
    ['flags run together', 'M-5 0a5 5 0 015 5', [-5, -5, 0, 0], 1],
    ['radii too small grow', 'M-5 0A1 1 0 0 1 5 0', [-5, 0, 5, 5], 1],
    ['a radius of 0 is a line', 'M0 0A0 5 0 0 1 9 9', [0, -9, 9, 0], 1],
    ['an error keeps what came before', 'M0 0L5 5L7 oops', [0, -5, 5, 0], 1],
  ];
  it.each(cases)('%s', (_name, d, box, segments) => {
    const result = path(d);
    boxOf(result).forEach((value, i) => expect(value).toBeCloseTo(box[i]!, 9));
    expect(countSegments(result)).toBe(segments);
  });

  it('arcs end where they must and keep to their ellipse', () => {
    const any = fc.double({ min: -1000, max: 1000, noNaN: true });
    const radius = fc.double({ min: 1, max: 1000, noNaN: true });
    fc.assert(
      fc.property(any, any, radius, radius, any, fc.boolean(), fc.boolean(), (x, y, rx, ry, turn, large, sweep) => {
        fc.pre(Math.hypot(x, y) > 1);
        const { ops, coords } = path(`M0 0A${rx} ${ry} ${turn} ${large ? 1 : 0} ${sweep ? 1 : 0} ${x} ${y}`);
        expect(ops[1]).toBe(Op.arc);
        const [cx, cy, ux, uy, vx, vy, start, turnRad, endX, endY] = Array.from(coords).slice(2);
        const at = (t: number): [number, number] => [
          cx! + ux! * Math.cos(t) + vx! * Math.sin(t),
          cy! + uy! * Math.cos(t) + vy! * Math.sin(t),
        ];
        const size = rx + ry + Math.hypot(x, y);
        expect(Math.hypot(...at(start!))).toBeLessThan(1e-6 * size);
        const [ex, ey] = at(start! + turnRad!);
        expect(Math.hypot(ex - x, ey + y)).toBeLessThan(1e-6 * size);
        expect([endX! + 0, endY! + 0]).toEqual([x + 0, 0 - y]); // −0 is 0
        expect(Math.abs(turnRad!) > Math.PI - 1e-6).toBe(large || Math.abs(turnRad!) > Math.PI - 1e-6);
      }),
    );
  });
});

describe('coordinates', () => {
  it('are taken to the last digit on a national grid, y turned up', () => {
    const { paths } = read(stroked('<path d="M412600500.125 -7208400250.5h0.25"/>'));
    expect(Array.from(paths[0]!.path.coords)).toEqual([412600500.125, 7208400250.5, 412600500.375, 7208400250.5]);
  });

  it('are scaled to millimetres by a physical size and a viewBox, whose origin is not subtracted', () => {
    const line = '<path stroke="red" d="M100 100H200"/>';
    const result = read(svg(line, 'width="42cm" height="29.7cm" viewBox="100 100 4200 2970"'));
    expect(result.unit).toBe('mm');
    expect(Array.from(result.paths[0]!.path.coords)).toEqual([10, -10, 20, -10]);
    expect(result.styles[0]!.width).toBeCloseTo(0.1, 12);
  });

  it('are user units where the file gives no physical size', () => {
    for (const attributes of [
      '',
      'viewBox="0 0 10 10"',
      'width="10" height="10" viewBox="0 0 5 5"',
      'width="4mm" height="3mm"',
    ]) {
      const result = read(svg('<path stroke="red" d="M3 4H5"/>', attributes));
      expect(result.unit).toBe('none');
      expect(Array.from(result.paths[0]!.path.coords).slice(0, 2)).toEqual([3, -4]);
    }
  });

  it('go through nested transforms in the standard’s order', () => {
    const content =
      '<g transform="translate(100,50) rotate(90)"><g transform="scale(2 3), skewX(45)"><path d="M1 1h1"/></g></g>';
    // skewX: (1,1)→(2,1), (2,1)→(3,1); scale: (4,3), (6,3); rotate 90: (−3,4), (−3,6); translate: (97,54), (97,56)
    const coords = Array.from(read(stroked(content)).paths[0]!.path.coords);
    [97, -54, 97, -56].forEach((value, i) => expect(coords[i]).toBeCloseTo(value, 12));
  });
});

describe('shapes', () => {
  const cases: [string, number[], number][] = [
    ['<rect x="1" y="2" width="3" height="4"/>', [1, -6, 4, -2], 4],
    ['<rect x="0" y="0" width="30" height="20" rx="5"/>', [0, -20, 30, 0], 8],
    ['<rect x="0" y="0" width="10" height="10" rx="50"/>', [0, -10, 10, 0], 4],
    ['<circle cx="5" cy="5" r="2"/>', [3, -7, 7, -3], 1],
    ['<ellipse cx="5" cy="5" rx="2" ry="1"/>', [3, -6, 7, -4], 1],
    ['<line x1="0" y1="1" x2="2" y2="3"/>', [0, -3, 2, -1], 1],
    ['<polyline points="0,0 1,1 2,0"/>', [0, -1, 2, 0], 2],
    ['<polygon points="0 0 1 1 2 0"/>', [0, -1, 2, 0], 3],
  ];
  it.each(cases)('%s', (content, box, segments) => {
    const { paths } = read(stroked(content));
    expect(countSegments(paths[0]!.path)).toBe(segments);
    boxOf(paths[0]!.path).forEach((value, i) => expect(value).toBeCloseTo(box[i]!, 12));
  });

  it('of no size draw nothing', () => {
    expect(read(stroked('<rect width="0" height="5"/><circle r="0"/><path d=""/><path d="M1 1"/>')).paths).toHaveLength(
      0,
    );
  });
});

describe('paint', () => {
  it('is inherited, overridden by attributes and by the style attribute', () => {
    const { paths, styles } = read(
      svg(`<g stroke="#f00" stroke-width="2" fill="none" opacity="0.5"><path d="M0 0h1"/>
           <path d="M0 0h1" stroke="blue" style="stroke: lime; stroke-width: 3px; stroke-dasharray: 4 2"/></g>`),
    );
    expect(styles[paths[0]!.lineStyle]).toMatchObject({ colour: { r: 255, g: 0, b: 0, a: 128 }, width: 2, dashes: [] });
    expect(styles[paths[1]!.lineStyle]).toMatchObject({
      colour: { r: 0, g: 255, b: 0, a: 128 },
      width: 3,
      dashes: [4, 2],
    });
  });

  it('fills in black where nothing is said, and leaves out what nobody sees', () => {
    const { paths, styles } = read(svg('<path d="M0 0h1v1z"/>'));
    expect(paths[0]!.lineStyle).toBe(-1);
    expect(styles[paths[0]!.fillStyle]).toMatchObject({ kind: 'fill', colour: { r: 0, g: 0, b: 0, a: 255 } });
    const unseen =
      '<g display="none"><path d="M0 0h1v1z"/></g><path d="M0 0h1" fill="none"/><rect width="1" height="1" visibility="hidden"/>';
    expect(read(svg(unseen)).paths).toHaveLength(0);
  });
});

describe('layers', () => {
  it('are the outermost named groups, by title, label or id', () => {
    const { layers, paths, layerOfNode } = read(
      stroked('').replace('</g>', '').replace('</svg>', '') +
        `<g id="a"><path d="M0 0h1"/><g id="valve"><path d="M0 0h1"/></g></g><g id="b" aria-label="Pipes"><path d="M0 0h1"/></g>
         <g id="c"><title>Cables</title><path d="M0 0h1"/></g><path d="M0 0h1"/></g></svg>`,
    );
    expect(layers.map(({ name }) => name)).toEqual(['Without a layer', 'a', 'Pipes', 'Cables']);
    expect(paths.map((p) => layerOfNode[p.layer])).toEqual([1, 1, 2, 3, 0]);
  });

  it('look through one group that wraps the whole file', () => {
    const { layers } = read(
      stroked('<g id="wrap"><g id="kerbs"><path d="M0 0h1"/></g><g id="pipes"><path d="M0 0h1"/></g></g>'),
    );
    expect(layers.map(({ name }) => name)).toEqual(['kerbs', 'pipes']);
  });
});

describe('use', () => {
  it('repeats what is defined before or after it, moved and with inherited paint', () => {
    const { paths, styles } = read(
      svg(`<use href="#late" x="100" stroke="red"/><defs><path id="early" d="M0 0h1"/></defs>
           <use xlink:href="#early" transform="translate(0 -5)" stroke="blue"/><g id="late" transform="scale(2)"><path d="M1 1h1"/></g>`),
    );
    const starts = paths.map((p) => [p.path.coords[0], p.path.coords[1]]);
    expect(starts).toEqual([
      [102, -2],
      [0, 5],
      [2, -2],
    ]);
    expect(styles[paths[1]!.lineStyle]!.colour).toMatchObject({ b: 255 });
    expect(styles[paths[0]!.lineStyle]!.colour).toMatchObject({ r: 255 });
  });

  it('fits a symbol into its place', () => {
    const { paths } = read(
      stroked(
        '<symbol id="s" viewBox="0 0 10 10"><path d="M0 0L10 10"/></symbol><use href="#s" x="5" y="5" width="20" height="20"/>',
      ),
    );
    expect(Array.from(paths[0]!.path.coords)).toEqual([5, -5, 25, -25]);
  });

  it('says so where it is broken, circular or outside the file', () => {
    const { warnings, paths } = read(
      stroked('<use href="#gone"/><use href="other.svg#x"/><g id="loop"><use href="#loop"/><path d="M0 0h1"/></g>'),
    );
    expect(warnings.map(({ code }) => code)).toEqual(['broken-reference', 'broken-reference', 'broken-reference']);
    expect(paths.length).toBeLessThan(4);
  });
});

describe('texts', () => {
  it('have place, size, direction, anchor and weight', () => {
    const { texts } = read(
      svg(
        '<g transform="rotate(-90 10 20)"><text x="10" y="20" font-size="5" text-anchor="middle" font-weight="700">KS-VA-0417\n  <tspan>DN 300</tspan></text></g>',
      ),
    );
    const { mark } = texts[0]!;
    expect(mark).toMatchObject({ text: 'KS-VA-0417 DN 300', anchor: 'middle', weight: 'bold' });
    expect([mark.x, mark.y, mark.size]).toEqual([10, -20, 5]);
    expect(mark.angleRad).toBeCloseTo(Math.PI / 2, 12);
  });

  it('are parted where a span has a place of its own', () => {
    const { texts } = read(svg('<text x="0" y="0">first<tspan x="0" dy="12">second</tspan></text>'));
    expect(texts.map(({ mark }) => [mark.text, mark.y])).toEqual([
      ['first', 0],
      ['second', -12],
    ]);
  });
});

describe('a file', () => {
  const whole = svg(
    '<title>A &amp; B</title><g id="x" stroke="red"><path d="M0 0h1"/><text x="1" y="2">Ä 潮 &lt;3</text></g><!-- end -->',
  );

  it('is read the same in pieces of any length', () => {
    const expected = JSON.stringify(read(whole));
    for (const length of [1, 2, 3, 7, 50]) expect(JSON.stringify(read(whole, length))).toBe(expected);
  });

  it('with foreign vocabularies and prefixes is read', () => {
    const text =
      '<s:svg xmlns:s="http://www.w3.org/2000/svg" xmlns:n="urn:notes"><n:view><n:path d="M0 0h9"/></n:view><s:path stroke="red" d="M0 0h1"/></s:svg>';
    expect(read(text).paths).toHaveLength(1);
  });

  it('that breaks off is refused with line and column', () => {
    const broken = faultOf('<svg xmlns="http://www.w3.org/2000/svg">\n<g>\n  <path d="M0 0"');
    expect(broken.code).toBe('malformed-xml');
    expect(broken.place).toMatchObject({ line: 3 });
    expect(faultOf('<svg>\n<g></a></svg>')).toMatchObject({ code: 'malformed-xml', place: { line: 2, column: 7 } });
  });

  it('that is no SVG is told so', () => {
    expect(faultOf('<html><body/></html>')).toMatchObject({ code: 'not-svg' });
    expect(faultOf('\u0089PNG')).toMatchObject({ code: 'not-svg' });
    expect(faultOf('')).toMatchObject({ code: 'not-svg' });
  });

  it('with things we do not draw is reported with counts and lines', () => {
    const { warnings } = read(
      stroked('\n<image href="x.png"/>\n<image href="y.png"/><path d="M0 0h1" transform="wobble(3)"/>'),
    );
    expect(warnings).toEqual([
      {
        code: 'not-supported',
        message: 'pictures that lie outside the file are not fetched: put them into it',
        count: 2,
        line: 2,
      },
      { code: 'bad-transform', message: 'a transform that can’t be read is left out', count: 1, line: 3 },
    ]);
  });
});
