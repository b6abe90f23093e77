import { describe, expect, it } from 'vitest';
import type { DrawingSink, PathElement, PictureElement, TextElement } from '@gull-pane/core/drawing/model';
import { ReadError } from '../read-error.ts';
import { defaultPdfLimits, readPdf, type PdfLimits } from './read-pdf.ts';
import { layOutSheets } from './sheet-grid.ts';
import { writePdf, type WrittenPdf } from '@gull-pane/demo/write-pdf';

const MM = 25.4 / 72;
const A4: readonly [number, number] = [595, 842];

async function read(pdf: WrittenPdf | Uint8Array, limits: PdfLimits = defaultPdfLimits) {
  const paths: PathElement[] = [];
  const texts: TextElement[] = [];
  const pictures: PictureElement[] = [];
  const sink: DrawingSink = {
    path: (element) => paths.push(element),
    text: (element) => texts.push(element),
    picture: (element) => pictures.push(element),
  };
  const bytes = pdf instanceof Uint8Array ? pdf : writePdf(pdf);
  const result = await readPdf(bytes, sink, { limits });
  const layerOf = (style: number): string => result.layers[result.styles[style]!.layer]!.name;
  // without the sheets’ edges
  const drawn = paths.filter(({ lineStyle, fillStyle }) => layerOf(Math.max(lineStyle, fillStyle)) !== 'Sheet edges');
  return { ...result, paths: drawn, edges: paths.length - drawn.length, texts, pictures, layerOf };
}
const onePage = (content: string, more: Partial<WrittenPdf> = {}): WrittenPdf => ({
  pages: [{ content, size: A4 }],
  ...more,
});
const faultOf = async (pdf: WrittenPdf | Uint8Array, limits?: PdfLimits): Promise<unknown> =>
  read(pdf, limits).then(
    () => null,
    (error: unknown) => error,
  );

describe('paths of a PDF', () => {
  it('are in mm on paper, to single precision', async () => {
    const { paths, unit, edges } = await read(onePage('100.25 200.5 m 300 400.125 l S 10 20 30 40 re f'));
    expect(unit).toBe('mm');
    expect(edges).toBe(1);
    const [line, area] = paths;
    Array.from(line!.path.coords).forEach((value, i) =>
      expect(value).toBeCloseTo([100.25, 200.5, 300, 400.125][i]! * MM, 6),
    );
    expect(area).toMatchObject({ lineStyle: -1, fillRule: 'nonzero' });
    expect(
      Array.from(area!.path.coords)
        .slice(0, 6)
        .map((value) => value / MM),
    ).toEqual([10, 20, 40, 20, 40, 60].map((value) => expect.closeTo(value, 6) as number));
  });

  it('keep curves, rules, widths, dashes and colours, under the matrix of their time', async () => {
    const content = `q 2 0 0 2 10 20 cm 3 w [4 2] 0 d 1 0 0 RG 5 5 m 10 20 30 20 40 5 c S Q
      0 0 1 rg 0 0 100 100 re 20 20 50 50 re f*  0 w 0 0 m 5 5 l s`;
    const { paths, styles } = await read(onePage(content));
    const [curve, hole, hairline] = paths;
    expect(Array.from(curve!.path.ops)).toEqual([0, 3]);
    expect(curve!.path.coords[0]).toBeCloseTo((10 + 2 * 5) * MM, 6);
    expect(styles[curve!.lineStyle]!.colour).toEqual({ r: 255, g: 0, b: 0, a: 255 });
    expect(styles[curve!.lineStyle]!.width).toBeCloseTo(6 * MM, 4);
    expect(styles[curve!.lineStyle]!.dashes.map((dash) => dash / MM)).toEqual(
      [8, 4].map((n) => expect.closeTo(n, 3) as number),
    );
    expect(hole!.fillRule).toBe('evenodd');
    expect(styles[hole!.fillStyle]!.colour).toEqual({ r: 0, g: 0, b: 255, a: 255 });
    expect(styles[hairline!.lineStyle]!.width).toBeGreaterThan(0);
    expect(Array.from(hairline!.path.ops)).toEqual([0, 1, 5]);
  });

  it('are cut at upright rectangles, at the sheet’s edge, and at clips of any shape', async () => {
    const inside = await read(onePage('q 50 50 100 100 re W n 0 100 m 500 100 l S Q 400 10 m 900 10 l S'));
    expect(Array.from(inside.paths[0]!.path.coords).map((value) => Math.round(value / MM))).toEqual([
      50, 100, 150, 100,
    ]);
    expect(inside.paths[1]!.path.coords[2]! / MM).toBeCloseTo(595, 6);
    const corner = await read(
      onePage('q 0 0 m 100 0 l 50 100 l h W n 0 50 m 500 50 l S 1 0 0 rg 0 0 100 50 re f 0 90 9 9 re f Q'),
    );
    expect(corner.warnings).toEqual([]);
    const [line, area] = corner.paths.map(({ path }) => Array.from(path.coords, (value) => value / MM));
    expect(line).toEqual([25, 50, 75, 50].map((value) => expect.closeTo(value, 4) as number));
    expect(corner.paths).toHaveLength(2);
    const [xs, ys] = [0, 1].map((axis) => area!.filter((_, i) => i % 2 === axis)) as [number[], number[]];
    // a trapezium: the whole foot, and half of it at half the height
    expect([Math.min(...xs), Math.max(...xs), Math.max(...ys)].map(Math.round)).toEqual([0, 100, 50]);
    expect(
      xs
        .filter((_, i) => ys[i]! > 49)
        .map(Math.round)
        .sort((a, b) => a - b),
    ).toEqual([25, 75]);
  });

  it('in forms stand where the forms do, with the opacity of their groups', async () => {
    const forms = {
      Plain: { entries: '/BBox [0 0 10 10] /Matrix [1 0 0 1 5 0]', content: '0 5 m 100 5 l S' },
      Group: { entries: '/BBox [0 0 10 10] /Group << /S /Transparency >>', content: '/Faint gs 1 1 5 5 re f' },
    };
    const { paths, styles } = await read(onePage('q 1 0 0 1 100 100 cm /Plain Do Q /Faint gs /Group Do', { forms }));
    expect(Array.from(paths[0]!.path.coords).map((value) => Math.round(value / MM))).toEqual([105, 105, 115, 105]);
    expect(styles[paths[1]!.fillStyle]!.colour.a).toBe(64); // half of a half
  });

  it('that can’t be taken over are counted by page', async () => {
    const far = '0 0 m 99999999999999 9 l S 0 0 m 9 9 l S';
    const { warnings, paths } = await read({
      pages: [
        { content: '0 0 m 1 1 l S', size: A4 },
        { content: far, size: A4 },
      ],
    });
    expect(paths).toHaveLength(2);
    const message = 'a path whose coordinates are no usable numbers is left out';
    expect(warnings).toEqual([{ code: 'bad-geometry', message, count: 1, page: 2 }]);
  });
});

describe('texts of a PDF', () => {
  it('stand where they are written, at their size and angle, bold where their face is', async () => {
    const content = `BT /F1 12 Tf 100 200 Td (MO-2041-V1) Tj ET
      BT /F2 10 Tf 0 1 -1 0 50 60 Tm (Intake) Tj ET BT 3 Tr /F1 9 Tf 9 9 Td (unseen) Tj ET`;
    const { texts, styles } = await read(onePage(content));
    expect(texts.map(({ mark }) => mark.text)).toEqual(['MO-2041-V1', 'Intake']);
    const [tag, turned] = texts.map(({ mark }) => mark);
    expect(tag).toMatchObject({ weight: 'normal', anchor: 'start', angleRad: 0 });
    expect([tag!.x, tag!.y, tag!.size].map((value) => value / MM)).toEqual(
      [100, 200, 12].map((n) => expect.closeTo(n, 5) as number),
    );
    expect(turned).toMatchObject({ weight: 'bold', angleRad: Math.PI / 2 });
    expect([turned!.x, turned!.y].map((value) => value / MM)).toEqual(
      [50, 60].map((n) => expect.closeTo(n, 5) as number),
    );
    expect(styles[texts[0]!.style]!.kind).toBe('text');
  });

  it('are put together from their pieces and parted where there is a gap', async () => {
    const content = `BT /F1 10 Tf 14 TL 10 100 Td [(Brine) -250 (pu) 20 (mp) -4000 (DN 300)] TJ T* (next line) Tj
      (, same line) ' ET BT /F1 10 Tf 10 300 Td (P) Tj (-) Tj (101) Tj ET`;
    const { texts } = await read(onePage(content));
    expect(texts.map(({ mark }) => mark.text)).toEqual(['Brine pump', 'DN 300', 'next line', ', same line', 'P-101']);
    const [, , third, fourth] = texts.map(({ mark }) => mark);
    expect((third!.y - fourth!.y) / MM).toBeCloseTo(14, 5);
    expect(third!.x / MM).toBeCloseTo(10, 5);
  });
});

describe('optional content', () => {
  it('is layers; what is switched off is there and said to be off', async () => {
    const groups = [{ name: 'Piping – süd' }, { name: 'Notes', isOff: true }, { name: 'Empty' }];
    const content = `0 0 m 1 1 l S /OC /G0 BDC 0 0 m 2 2 l S /Other BMC 0 0 m 3 3 l S EMC EMC /OC /G1 BDC 0 0 m 4 4 l S EMC`;
    const { paths, layers, layerOf } = await read(onePage(content, { groups }));
    expect(paths.map(({ lineStyle }) => layerOf(lineStyle))).toEqual([
      'Without a layer',
      'Piping – süd',
      'Piping – süd',
      'Notes',
    ]);
    expect(layers.filter(({ isOff }) => isOff).map(({ name }) => name)).toEqual(['Notes']);
  });
});

describe('pages', () => {
  it('lie side by side as one reads, upright, in their order', async () => {
    const page = (entries: string) => ({ content: '10 20 m 110 20 l S', size: [200, 100] as const, entries });
    const { sheets, paths } = await read({
      pages: [page(''), page('/Rotate 90'), page('/Rotate 180'), page('/Rotate 270'), page('/UserUnit 2')],
    });
    expect(sheets!.map(({ name }) => name)).toEqual(['Sheet 1', 'Sheet 2', 'Sheet 3', 'Sheet 4', 'Sheet 5']);
    expect(sheets![0]).toMatchObject({ minX: 0, minY: 0 });
    expect(sheets![0]!.maxX).toBeCloseTo(200 * MM, 6);
    expect(sheets![1]!.maxX - sheets![1]!.minX).toBeCloseTo(100 * MM, 6);
    expect(sheets![4]!.maxX - sheets![4]!.minX).toBeCloseTo(400 * MM, 6);
    const onSheet = paths.map(({ path }, index) => {
      const { minX, minY } = sheets![index]!;
      return Array.from(path.coords).map((value, i) => Math.round((value - (i % 2 ? minY : minX)) / MM));
    });
    expect(onSheet).toEqual([
      [10, 20, 110, 20],
      [20, 190, 20, 90],
      [190, 80, 90, 80],
      [80, 10, 80, 110],
      [20, 40, 220, 40],
    ]);
  });

  it('never overlap', () => {
    const sizes = Array.from({ length: 23 }, (_, i) => ({
      view: [5, 7, 100 + 37 * (i % 4), 90 + 51 * (i % 3)],
      rotate: 90 * (i % 4),
      userUnit: 1,
    }));
    const sheets = layOutSheets(sizes);
    sheets.forEach((a, i) =>
      sheets.slice(i + 1).forEach((b) => {
        const isApart = a.maxX < b.minX || b.maxX < a.minX || a.maxY < b.minY || b.maxY < a.minY;
        expect(isApart).toBe(true);
      }),
    );
  });
});

describe('a file that can’t be read', () => {
  const sample = onePage('BT /F1 12 Tf 100 200 Td (MO-2041-V1) Tj ET 0 0 m 100 100 l S');

  it('is an error of ours, or read as far as it goes, wherever it is cut off', async () => {
    const bytes = writePdf(sample);
    for (let end = 20; end < bytes.length; end += 97) {
      const fault = await faultOf(bytes.slice(0, end));
      if (fault !== null) expect(fault).toBeInstanceOf(ReadError);
    }
    expect(await faultOf(new TextEncoder().encode('%PDF-1.7\nnothing more'))).toMatchObject({ code: 'malformed-pdf' });
  });

  it('is said to be locked, too large, or to hold nothing', async () => {
    const key = '41'.repeat(32);
    const trailer = `/ID [<${'42'.repeat(16)}> <${'42'.repeat(16)}>] /Encrypt << /Filter /Standard /V 1 /R 2 /O <${key}> /U <${key}> /P -4 >>`;
    expect(await faultOf({ ...sample, trailer })).toMatchObject({ code: 'locked-file' });
    const pages = Array.from({ length: 4 }, () => sample.pages[0]!);
    expect(await faultOf({ pages }, { ...defaultPdfLimits, maxPages: 3 })).toMatchObject({ code: 'limit-exceeded' });
    expect(await faultOf(sample, { ...defaultPdfLimits, maxElements: 1 })).toMatchObject({ code: 'limit-exceeded' });
    expect(await faultOf(onePage('q Q'))).toMatchObject({ code: 'nothing-to-draw' });
  });

  it('leaves the other pages whole where one is damaged', async () => {
    const bytes = writePdf({ pages: [sample.pages[0]!, { content: 'BT (((((', size: A4 }, sample.pages[0]!] });
    const { paths, sheets } = await read(bytes);
    expect(sheets).toHaveLength(3);
    expect(paths).toHaveLength(2);
    // in full: PDF knows no exponents (ISO 32000-1, 7.3.3)
    const [far, farther] = [`1${'0'.repeat(30)}`, `1${'0'.repeat(300)}`];
    const numbers = await read(onePage(`${far} 0 m 5 5 l S 0 0 m 1 1 l S 1 0 0 1 ${farther} 0 cm 0 0 m 1 1 l S`));
    expect(numbers.paths).toHaveLength(1);
  });

  it('has what was put onto its pages on a layer of its own, where it stands', async () => {
    const note = { entries: '/BBox [0 0 20 10]', content: '1 0 0 RG 0 5 m 20 5 l S' };
    const { paths, layerOf } = await read({
      pages: [
        {
          content: '0 0 m 1 1 l S',
          size: A4,
          // the first form is the fifth object
          entries: '/Annots [<< /Type /Annot /Subtype /Stamp /F 4 /Rect [100 200 140 220] /AP << /N 5 0 R >> >>]',
        },
      ],
      forms: { Note: note },
    });
    expect(paths.map(({ lineStyle }) => layerOf(lineStyle))).toEqual(['Without a layer', 'Annotations']);
    expect(Array.from(paths[1]!.path.coords, (value) => Math.round(value / MM))).toEqual([100, 210, 140, 210]);
  });

  it('cuts its pictures by clips of any shape', async () => {
    const white = 'BI /W 4 /H 4 /CS /G /BPC 8 ID \xff\xff\xff\xff\xff\xff\xff\xff\xff\xff\xff\xff\xff\xff\xff\xff EI';
    const { pictures, warnings } = await read(onePage(`q 0 0 m 400 0 l 0 400 l h W n 400 0 0 400 0 0 cm ${white} Q`));
    expect(warnings).toEqual([]);
    const { bytes } = pictures[0]!.source;
    const alphas = Array.from({ length: 16 }, (_, i) => (bytes[4 * i + 3]! > 0 ? 1 : 0));
    // below the slope from the upper left to the lower right; its own px are in or out by a hair
    expect([1, 2, 3, 6, 7, 11].map((i) => alphas[i])).toEqual([0, 0, 0, 0, 0, 0]);
    expect([4, 8, 9, 12, 13, 14].map((i) => alphas[i])).toEqual([1, 1, 1, 1, 1, 1]);
  });

  it('has shadings as pictures where they are painted', async () => {
    const fade =
      '<< /ShadingType 2 /ColorSpace /DeviceRGB /Coords [100 0 300 0] /Extend [true true] ' +
      '/Function << /FunctionType 2 /Domain [0 1] /C0 [1 0 0] /C1 [0 0 1] /N 1 >> >>';
    const forms = {
      Fade: {
        entries: '/BBox [0 0 600 900]',
        resources: `/Shading << /S ${fade} >> /Pattern << /P << /PatternType 2 /Shading ${fade} >> >>`,
        content: 'q 100 400 200 100 re W n /S sh Q /Pattern cs /P scn 100 100 m 300 100 l 200 200 l h f',
      },
    };
    const { pictures, paths, warnings } = await read(onePage('/Fade Do', { forms }));
    expect(warnings).toEqual([]);
    expect(paths).toEqual([]);
    const [band, triangle] = pictures;
    const near = (value: number): number => expect.closeTo(value * MM, 3) as number;
    expect(band!.place).toMatchObject({ a: near(200), d: near(-100), e: near(100), f: near(500) });
    const { bytes, widthPx } = band!.source as { bytes: Uint8Array; widthPx: number };
    expect(bytes[0]).toBeGreaterThan(250);
    expect(bytes[4 * (widthPx - 1) + 2]).toBeGreaterThan(250);
    // above the slopes of the triangle nothing is painted
    expect(triangle!.source.bytes[3]).toBe(0);
    expect(triangle!.place).toMatchObject({ a: near(200), d: near(-100), e: near(100), f: near(200) });
  });

  it('hands on its pictures with their px, first row on top, and stencils in their colour', async () => {
    const inline = (entries: string, bytes: string): string => `BI ${entries} ID ${bytes} EI `;
    const rgb = '\xff\x00\x00\x00\xff\x00\x00\x00\xff\xff\xff\xff';
    const content =
      `q 72 0 0 36 100 200 cm /Faint gs ${inline('/W 2 /H 2 /CS /RGB /BPC 8', rgb)} Q ` +
      `q 0 0 1 rg 8 0 0 1 10 20 cm ${inline('/W 8 /H 1 /IM true', '\x0f')} Q ` +
      `q 20 0 0 10 0 0 cm ${inline('/W 3 /H 1 /CS /G /BPC 1', '\xa0')} Q`;
    const { pictures, warnings } = await read({ pages: [{ content, size: A4 }] });
    expect(warnings).toEqual([]);
    const [photo, stencil, grey] = pictures;
    expect(photo!.source).toMatchObject({ kind: 'pixels', widthPx: 2, heightPx: 2 });
    const colours = [0, 4, 8, 12].map((at) => [...photo!.source.bytes.subarray(at, at + 3)]);
    expect(colours).toEqual([
      [255, 0, 0],
      [0, 255, 0],
      [0, 0, 255],
      [255, 255, 255],
    ]);
    expect(photo!.opacity).toBe(0.5);
    const { a, d, e, f } = photo!.place;
    const near = (value: number): number => expect.closeTo(value, 9) as number;
    // the upper left corner, to the right and down
    expect([a, d, e, f]).toEqual([near(72 * MM), near(-36 * MM), near(100 * MM), near((200 + 36) * MM)]);
    expect([...stencil!.source.bytes]).toEqual(
      [0, 0, 0, 0, 1, 1, 1, 1].flatMap((bit) => (bit ? [0, 0, 0, 0] : [0, 0, 255, 255])),
    );
    const { bytes, ...size } = grey!.source;
    expect(size).toMatchObject({ widthPx: 3, heightPx: 1 });
    const step = bytes.length / 3;
    expect([0, step, 2 * step].map((at) => bytes[at])).toEqual([255, 0, 255]);
  });
});
