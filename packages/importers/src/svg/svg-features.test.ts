import { describe, expect, it } from 'vitest';
import type { Style, TextMark } from '@gull-pane/core/drawing/model';
import { Op, countSegments } from '@gull-pane/core/drawing/path';
import type { Path } from '@gull-pane/core/drawing/path';
import { ringsOf } from '@gull-pane/core/drawing/rings';
import { boxOf as exactBoxOf, faultOf, readWhole as read, type WholeRead } from './read-whole.ts';

const svg = (content: string, attributes = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${content}</svg>`;
const boxOf = (path: Path): number[] => exactBoxOf(path).map((value) => Math.round(value * 1e6) / 1e6 + 0);
const boxes = (text: string): number[][] => read(text).paths.map(({ path }) => boxOf(path));
const looks = ({ paths, styles }: WholeRead): [Style | undefined, Style | undefined][] =>
  paths.map(({ fillStyle, lineStyle }) => [styles[fillStyle], styles[lineStyle]]);
const fillOf = (content: string): number[] => {
  const [fill] = looks(read(svg(content)))[0]!;
  const { r, g, b, a } = fill!.colour;
  return [r, g, b, a];
};
const square = '<rect id="s" class="big wide" width="10" height="10"/>';

describe('style rules', () => {
  it.each([
    ['by element', 'rect { fill: red }'],
    ['by class', '.big { fill: red }'],
    ['by id', '#s { fill: red }'],
    ['by several at once', 'rect.big.wide { fill: red }'],
    ['by descendant', '#outer rect { fill: red }'],
    ['by child', 'g > g > .big { fill: red }'],
    ['by a list', 'circle, .big { fill: red }'],
    ['by anything', '* { fill: red }'],
    ['in CDATA', '<![CDATA[ .big { fill: red } ]]>'],
    ['with a comment', '/* pens */ .big { /* red */ fill: red; }'],
  ])('%s', (_name, rule) => {
    expect(fillOf(`<style>${rule}</style><g id="outer"><g>${square}</g></g>`)).toEqual([255, 0, 0, 255]);
    // where the rules stand doesn't matter
    expect(fillOf(`<g id="outer"><g>${square}</g></g><style>${rule}</style>`)).toEqual([255, 0, 0, 255]);
  });

  it('stand above attributes, below the style attribute; ids above classes above elements', () => {
    const rules = '<style>#s{fill:#010101}.big{fill:#020202}rect{fill:#030303}</style>';
    expect(fillOf(`${rules}<rect class="big" fill="blue" width="1" height="1"/>`)[0]).toBe(2);
    expect(fillOf(`${rules}${square}`)[0]).toBe(1);
    expect(fillOf(`${rules}<rect id="s" style="fill:#040404" width="1" height="1"/>`)[0]).toBe(4);
    const important = '<style>rect{fill:#050505 !important}#s{fill:#010101}</style>';
    expect(fillOf(`${important}<rect id="s" style="fill:#040404" width="1" height="1"/>`)[0]).toBe(5);
  });

  it('don’t apply to what they don’t name, and say what isn’t known', () => {
    const { warnings, paths } = read(
      svg(`<style>.other{display:none} rect:hover{display:none} @media print{rect{display:none}}</style>${square}`),
    );
    expect(paths).toHaveLength(1);
    expect(warnings.map(({ message }) => message).join()).toMatch(/anything but element.*@media/s);
    expect(warnings.every(({ line }) => line === 1)).toBe(true);
  });
});

describe('what is referred to', () => {
  it('symbols with a viewBox, fitted as asked', () => {
    const symbol = (preserve: string): string =>
      svg(
        `<symbol id="v" viewBox="0 0 10 20" preserveAspectRatio="${preserve}"><rect width="10" height="20"/></symbol>
        <use href="#v" x="100" y="100" width="40" height="40"/>`,
        'viewBox="0 0 400 400"',
      );
    expect(boxes(symbol('xMidYMid meet'))).toEqual([[110, -140, 130, -100]]);
    expect(boxes(symbol('xMinYMin meet'))).toEqual([[100, -140, 120, -100]]);
    expect(boxes(symbol('xMidYMax slice'))).toEqual([[100, -140, 140, -60]]);
    expect(boxes(symbol('none'))).toEqual([[100, -140, 140, -100]]);
  });

  it('in the place of the file where it is used, also before it is defined', () => {
    expect(boxes(svg(`<use xlink:href="#s" x="50"/><rect width="1" height="1"/><defs>${square}</defs>`))).toEqual([
      [50, -10, 60, 0],
      [0, -1, 1, 0],
    ]);
  });

  it('never in a circle and never outside the file', () => {
    const { warnings, paths } = read(
      svg('<g id="a"><rect width="1" height="1"/><use href="#a"/></g><use href="other.svg#b"/><use href="#none"/>'),
    );
    expect(paths.length).toBe(2);
    expect(warnings.map(({ code }) => code)).toEqual(['broken-reference', 'broken-reference', 'broken-reference']);
  });

  it('gradients as their mean colour, stops in another gradient too', () => {
    const stops = '<stop offset="0" stop-color="#ff0000"/><stop offset="1" stop-color="#0000ff"/>';
    expect(
      fillOf(`<linearGradient id="g">${stops}</linearGradient><rect fill="url(#g)" width="9" height="9"/>`),
    ).toEqual([128, 0, 128, 255]);
    const linked = `<rect fill="url(#h)" width="9" height="9"/><radialGradient id="h" xlink:href="#g"/><linearGradient id="g">${stops}</linearGradient>`;
    expect(fillOf(linked)).toEqual([128, 0, 128, 255]);
    const uneven = '<stop offset="75%" style="stop-color:#000"/><stop offset="0.75" stop-color="#fff"/>';
    expect(
      fillOf(`<linearGradient id="g">${uneven}</linearGradient><rect fill="url(#g)" width="9" height="9"/>`)[0],
    ).toBe(64);
  });

  it('markers, turned along the path, as large as the line is wide', () => {
    const arrow = `<marker id="m" orient="auto" refX="0" refY="0" markerWidth="4" markerHeight="4">
      <path d="M0 0H3" stroke="red"/></marker>`;
    const drawn = boxes(
      svg(`${arrow}<path d="M0 0V10H20" fill="none" stroke="black" stroke-width="2" marker-end="url(#m)"/>`),
    );
    expect(drawn).toEqual([
      [0, -10, 20, 0],
      [20, -10, 26, -10],
    ]);
    const everywhere = boxes(svg(`${arrow}<path d="M0 0V10H20" stroke="black" fill="none" marker="url(#m)"/>`));
    expect(everywhere).toHaveLength(4);
    expect(everywhere[1]).toEqual([0, -3, 0, 0]); // begins down the page
    const middle = 3 * Math.SQRT1_2;
    expect(everywhere[2]![2]).toBeCloseTo(middle, 5); // half-way between down and right
  });

  const linesOf = (content: string): number[][] => {
    const { paths } = read(svg(content));
    const { coords } = paths.at(-1)!.path;
    const lines: number[][] = [];
    for (let i = 0; i < coords.length; i += 4) {
      lines.push([0, 1, 2, 3].map((k) => Math.round(coords[i + k]! * 1e6) / 1e6 + 0));
    }
    return lines.sort((a, b) => b[1]! - a[1]! || a[0]! - b[0]!);
  };
  it.each([
    [
      'in shares of the shape',
      '<pattern id="p" width="0.5" height="50%"><path d="M0 1H10" stroke="black"/></pattern>',
      [-1, -6],
    ],
    [
      'with content in shares, too',
      '<pattern id="p" width="0.5" height="0.5" patternContentUnits="objectBoundingBox"><path d="M0 .25H1" stroke="black"/></pattern>',
      [-2.5, -7.5],
    ],
    [
      'with a view box',
      '<pattern id="p" width="1" height="1" viewBox="0 0 100 100"><path d="M0 30H100" stroke="black"/></pattern>',
      [-3],
    ],
    [
      'whose tile begins elsewhere, cut at its edges',
      '<pattern id="p" patternUnits="userSpaceOnUse" x="103" y="101" width="10" height="5"><path d="M-50 1H50M0 6H10" stroke="black"/></pattern>',
      [-2, -7],
    ],
  ])('patterns %s', (_name, pattern, heights) => {
    const lines = linesOf(`${pattern}<rect x="100" width="10" height="10" fill="url(#p)"/>`);
    expect([...new Set(lines.map(([, y]) => y))]).toEqual(heights);
    for (const height of heights) {
      const parts = lines.filter(([, y]) => y === height);
      expect(parts[0]![0]).toBe(100);
      expect(parts.at(-1)![2]).toBe(110);
      expect(parts.reduce((sum, [x0, , x1]) => sum + x1! - x0!, 0)).toBeCloseTo(10, 6);
    }
  });

  it('patterns of lines as a hatch within the shape', () => {
    const hatch = `<pattern id="p" patternUnits="userSpaceOnUse" width="4" height="4"><path d="M0 2H4" stroke="black"/></pattern>`;
    const { paths } = read(svg(`${hatch}<circle cx="20" cy="20" r="10" fill="url(#p)"/>`));
    expect(paths).toHaveLength(1);
    expect(paths[0]!.lineStyle).toBeGreaterThanOrEqual(0);
    const { coords } = paths[0]!.path;
    expect(countSegments(paths[0]!.path)).toBeGreaterThan(5);
    for (let i = 0; i < coords.length; i += 2) {
      expect(Math.hypot(coords[i]! - 20, coords[i + 1]! + 20)).toBeLessThanOrEqual(10.0001);
      expect((-coords[i + 1]! - 2) % 4).toBeCloseTo(0, 9);
    }
    const ring = read(svg(`${hatch}<path fill-rule="evenodd" d="M0 0H40V40H0ZM10 10H30V30H10Z" fill="url(#p)"/>`))
      .paths[0]!.path.coords;
    const isInHole = (x: number, y: number): boolean => x > 10.001 && x < 29.999 && y > 10 && y < 30;
    for (let i = 0; i < ring.length; i += 4) {
      expect(isInHole((ring[i]! + ring[i + 2]!) / 2, -(ring[i + 1]! + ring[i + 3]!) / 2)).toBe(false);
    }
  });
});

/** By the sum over its rings, those of holes taken off. */
function areaOf(path: Path): number {
  return Math.abs(
    ringsOf(path).reduce((sum, ring) => {
      for (let i = 0; i < ring.length; i += 2) {
        const j = (i + 2) % ring.length;
        sum += (ring[i]! * ring[j + 1]! - ring[j]! * ring[i + 1]!) / 2;
      }
      return sum;
    }, 0),
  );
}

describe('clip paths', () => {
  const clip = '<clipPath id="c"><rect x="10" y="10" width="20" height="20"/></clipPath>';
  const clipped = (content: string): string =>
    svg(`${clip}<g clip-path="url(#c)" fill="none" stroke="black">${content}</g>`);

  it('cut lines exactly and leave out what lies outside', () => {
    const drawn = read(
      clipped('<path d="M0 20H40"/><path d="M0 0H40"/><path d="M15 15H25"/><path d="M20 0V40M0 15L15 0"/>'),
    );
    expect(drawn.paths.map(({ path }) => boxOf(path))).toEqual([
      [10, -20, 30, -20],
      [15, -15, 25, -15],
      [20, -30, 20, -10],
    ]);
  });

  it('cut arcs and curves where they cross, and leave them curves', () => {
    const [circle] = read(clipped('<circle cx="20" cy="10" r="8"/>')).paths;
    expect(boxOf(circle!.path)).toEqual([12, -18, 28, -10]);
    expect(Array.from(circle!.path.ops)).toEqual([Op.move, Op.arc]);
    const [cubic] = read(clipped('<path d="M0 10C20 10 20 30 40 30"/>')).paths;
    const [x0, y0] = [cubic!.path.coords[0]!, -cubic!.path.coords[1]!];
    const end = Array.from(cubic!.path.coords).slice(-2);
    expect([x0, end[0]!]).toEqual([expect.closeTo(10, 9), expect.closeTo(30, 9)]);
    expect(y0 + -end[1]!).toBeCloseTo(40, 9); // the curve is the same from both ends
  });

  it('cut areas', () => {
    const { paths } = read(svg(`${clip}<rect clip-path="url(#c)" width="15" height="99" fill="red"/>`));
    expect(paths.map(({ path }) => boxOf(path))).toEqual([[10, -30, 15, -10]]);
  });

  it('cut by any shape, with holes where their rule makes some', () => {
    const star = '<clipPath id="c"><path clip-rule="evenodd" d="M0 0h30v30h-30zM10 10v10h10v-10z"/></clipPath>';
    const { warnings, paths } = read(
      svg(
        `${star}<g clip-path="url(#c)"><path d="M-5 15h40" stroke="black"/><rect width="15" height="15"/><text x="5" y="5">a</text><text x="15" y="15">b</text></g>`,
      ),
    );
    expect(warnings).toEqual([]);
    expect(paths.map(({ path }) => boxOf(path))).toEqual([
      [0, -15, 30, -15],
      [0, -15, 15, 0],
    ]);
    // in two pieces: what lies in the hole is gone
    expect(Array.from(paths[0]!.path.coords)).toEqual([0, -15, 10, -15, 20, -15, 30, -15]);
    expect(areaOf(paths[1]!.path)).toBeCloseTo(15 * 15 - 5 * 5, 6);
    expect(
      read(svg(`${star}<g clip-path="url(#c)"><text x="5" y="5">a</text><text x="15" y="15">b</text></g>`)).texts.map(
        ({ mark }) => mark.text,
      ),
    ).toEqual(['a']);
  });

  it('are reported where they are several', () => {
    const { warnings, paths } = read(
      svg(
        `<clipPath id="c"><circle r="3"/><rect width="1" height="1"/></clipPath><rect clip-path="url(#c)" width="9" height="9"/>`,
      ),
    );
    expect(paths).toHaveLength(1);
    expect(warnings).toMatchObject([{ code: 'not-supported', line: 1 }]);
    expect(warnings[0]!.message).toContain('clip paths');
  });
});

describe('structure', () => {
  it('a switch draws the first child that suits', () => {
    const content =
      '<switch><rect width="1" height="1" systemLanguage="de"/><rect width="2" height="2" systemLanguage="en-GB"/><rect width="3" height="3"/></switch>';
    expect(boxes(svg(content))).toEqual([[0, -2, 2, 0]]);
  });

  it('nested svg elements place and scale what is in them', () => {
    expect(
      boxes(
        svg(
          '<svg x="10" y="20" width="50" height="50" viewBox="0 0 5 5"><rect width="5" height="2"/></svg>',
          'viewBox="0 0 100 100"',
        ),
      ),
    ).toEqual([[10, -40, 60, -20]]);
  });

  it('display and visibility hide, and only visibility can be taken back', () => {
    const content = `<g display="none"><rect width="1" height="1" display="inline"/></g>
      <g visibility="hidden"><rect width="2" height="2"/><rect width="3" height="3" visibility="visible"/></g>`;
    expect(boxes(svg(content))).toEqual([[0, -3, 3, 0]]);
  });

  it.each([
    ['mm', '10mm', (10 * 96) / 25.4],
    ['cm', '1cm', 96 / 2.54],
    ['in', '1in', 96],
    ['pt', '72pt', 96],
    ['%', '50%', 100],
    ['em', '2em', 32],
    ['rem', '2rem', 32],
  ])('lengths in %s', (_unit, text, expected) => {
    const [box] = boxes(svg(`<rect width="${text}" height="1"/>`, 'viewBox="0 0 200 100"'));
    expect(box![2]).toBeCloseTo(expected, 5);
  });

  it('currentColor is the colour that holds there', () => {
    expect(fillOf('<g color="#102030"><rect width="9" height="9" fill="currentColor"/></g>')).toEqual([
      16, 32, 48, 255,
    ]);
  });

  it('what is left out is counted and named with its line', () => {
    const { warnings } = read(
      svg(
        '\n<image href="x.png"/>\n<image/>\n<foreignObject/><script>1</script><rect mask="url(#m)" filter="url(#f)" width="1" height="1"/><mesh/>',
      ),
    );
    expect(warnings.map(({ message, count, line }) => [message.split(' ')[0], count, line])).toEqual([
      ['pictures', 2, 2],
      ['foreign', 1, 4],
      ['scripts', 1, 4],
      ['masks', 1, 4],
      ['filters', 1, 4],
      ['the', 1, 4],
    ]);
  });
});

describe('texts', () => {
  const marks = (content: string) => read(svg(content)).texts.map(({ mark }) => mark);

  it('letters with places of their own stand there', () => {
    expect(marks('<text x="1 5 9" y="2">abc</text>').map(({ text, x }) => [text, x])).toEqual([
      ['a', 1],
      ['b', 5],
      ['c', 9],
    ]);
  });

  it('spans that go on belong to the text, spans with a place don’t', () => {
    const [first, second] = marks(
      '<text x="1" y="2">KS-<tspan font-weight="bold">VA</tspan>-0417<tspan x="1" dy="12">DN 600</tspan></text>',
    );
    expect(first).toMatchObject({ text: 'KS-VA-0417', x: 1, y: -2 });
    expect(second).toMatchObject({ text: 'DN 600', x: 1, y: -14 });
  });

  it('sizes and turns follow transforms', () => {
    const [mark] = marks('<text transform="rotate(-90) scale(2)" x="3" font-size="5" text-anchor="end">N</text>');
    expect(mark).toMatchObject({ size: 10, anchor: 'end' });
    expect(mark!.angleRad).toBeCloseTo(Math.PI / 2, 12);
    expect([mark!.x, mark!.y].map((value) => Math.round(value * 1e9) / 1e9 + 0)).toEqual([0, 6]);
  });

  const onPath = (path: string, text: string, offset = '0'): TextMark[] => {
    const element = `<text font-size="10"><textPath href="#p" startOffset="${offset}">${text}</textPath></text>`;
    return read(svg(`<path id="p" d="${path}" fill="none"/>${element}`)).texts.map(({ mark }) => mark);
  };

  it('stand along a straight path as one, where it has their offset', () => {
    const [mark, ...others] = onPath('M0 0V100', 'drain', '25%');
    expect(mark).toMatchObject({ text: 'drain', y: -25 });
    expect(mark!.x).toBeCloseTo(0, 12);
    expect(mark!.angleRad).toBeCloseTo(-Math.PI / 2, 12);
    expect(others).toEqual([]);
  });

  it('stand along a curve letter by letter, the middle of each on it', () => {
    // a ring of 50: the letters lie on it and turn with it, spaced by their widths
    const marks = onPath('M0 50A50 50 0 0 1 50 0A50 50 0 0 1 100 50', 'Sea outfall', '10');
    expect(marks.map(({ text }) => text).join('')).toBe('Seaoutfall');
    for (const { x, y, angleRad } of marks) {
      const middle = { x: x + 2.5 * Math.cos(angleRad) - 50, y: y + 2.5 * Math.sin(angleRad) + 50 };
      expect(Math.abs(Math.hypot(middle.x, middle.y) - 50)).toBeLessThan(0.3); // 2.5 is about half a letter
      expect(Math.cos(angleRad - (Math.atan2(middle.y, middle.x) - Math.PI / 2))).toBeGreaterThan(0.995);
    }
    const turns = marks.map(({ angleRad }) => angleRad);
    expect([...turns].sort((a, b) => b - a)).toEqual(turns);
  });

  it('beyond the ends of their path are not drawn; anchors and spans count along it', () => {
    expect(onPath('M0 0H20', 'iiiiiiiiiiiiiiii')[0]!.text).toBe('i'.repeat(8)); // 2.46 each
    const [begin] = onPath('M0 0H100', '<tspan text-anchor="start">tag</tspan> 12', '50');
    expect(begin!.text).toBe('tag');
    expect(begin!.x).toBeCloseTo(50, 9);
    const centred = read(
      svg(
        '<path id="p" d="M0 0H100" transform="translate(0 7)"/><text font-size="10" text-anchor="middle"><textPath href="#p" startOffset="50%">0000</textPath></text>',
      ),
    ).texts[0]!.mark;
    expect(centred).toMatchObject({ text: '0000', anchor: 'start', y: -7 });
    expect(centred.x).toBeCloseTo(50 - 2 * 4.97, 9);
  });
});

describe('entities', () => {
  const withEntities = (declarations: string, content: string): string =>
    `<!DOCTYPE svg [${declarations}]><svg xmlns="http://www.w3.org/2000/svg">${content}</svg>`;
  it('declared in the file are put in, those in others too', () => {
    const { texts } = read(withEntities('<!ENTITY ks "KS"><!ENTITY tag "&ks;-VA">', '<text>&tag;-0417</text>'));
    expect(texts[0]!.mark.text).toBe('KS-VA-0417');
  });

  it('that blow up are refused', () => {
    const bomb = Array.from({ length: 10 }, (_, i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(10)}">`).join('');
    expect(faultOf(withEntities(`<!ENTITY e0 "ha">${bomb}`, '<text>&e10;</text>'))).toMatchObject({
      code: 'limit-exceeded',
    });
    expect(faultOf(withEntities('<!ENTITY a "&b;"><!ENTITY b "&a;">', '<text>&a;</text>')).message).toContain(
      'refers to itself',
    );
  });

  it('that stand elsewhere are never fetched, unknown ones are an error with its place', () => {
    const { texts, warnings } = read(withEntities('<!ENTITY x SYSTEM "file:///etc/passwd">', '<text>a&x;b</text>'));
    expect(texts[0]!.mark.text).toBe('ab');
    expect(warnings[0]).toMatchObject({ code: 'not-supported', count: 1 });
    expect(faultOf(withEntities('', '<text>&nothing;</text>'))).toMatchObject({
      code: 'malformed-xml',
      place: { line: 1 },
    });
  });
});
