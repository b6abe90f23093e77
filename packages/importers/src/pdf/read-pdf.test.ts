import { describe, expect, it } from 'vitest';
import type { DrawingSink, PathElement, TextElement } from '@gull-pane/core/drawing/model';
import { ReadError } from '../read-error.ts';
import { defaultPdfLimits, readPdf, type PdfLimits } from './read-pdf.ts';
import { layOutSheets } from './sheet-grid.ts';
import { writePdf, type WrittenPdf } from '@gull-pane/demo/write-pdf';

const MM = 25.4 / 72;
const A4: readonly [number, number] = [595, 842];

async function read(pdf: WrittenPdf | Uint8Array, limits: PdfLimits = defaultPdfLimits) {
  const paths: PathElement[] = [];
  const texts: TextElement[] = [];
  const sink: DrawingSink = { path: (element) => paths.push(element), text: (element) => texts.push(element) };
  const bytes = pdf instanceof Uint8Array ? pdf : writePdf(pdf);
  const result = await readPdf(bytes, sink, { limits });
  const layerOf = (style: number): string => result.layers[result.styles[style]!.layer]!.name;
  // without the sheets’ edges
  const drawn = paths.filter(({ lineStyle, fillStyle }) => layerOf(Math.max(lineStyle, fillStyle)) !== 'Sheet edges');
  return { ...result, paths: drawn, edges: paths.length - drawn.length, texts, layerOf };
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

  it('are cut at upright rectangles, at the sheet’s edge, too; other clips are told', async () => {
    const inside = await read(onePage('q 50 50 100 100 re W n 0 100 m 500 100 l S Q 400 10 m 900 10 l S'));
    expect(Array.from(inside.paths[0]!.path.coords).map((value) => Math.round(value / MM))).toEqual([
      50, 100, 150, 100,
    ]);
    expect(inside.paths[1]!.path.coords[2]! / MM).toBeCloseTo(595, 6);
    const round = await read(onePage('q 0 0 m 100 0 l 50 90 l h W n 0 100 m 500 100 l S Q'));
    expect(round.paths).toHaveLength(1);
    expect(round.warnings[0]).toMatchObject({ code: 'not-supported', page: 1 });
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
    const picture = 'q 10 0 0 10 0 0 cm BI /W 1 /H 1 /BPC 8 /CS /G ID x EI Q 0 0 m 9 9 l S';
    const { warnings, paths } = await read({
      pages: [
        { content: '0 0 m 1 1 l S', size: A4 },
        { content: picture, size: A4 },
      ],
    });
    expect(paths).toHaveLength(2);
    expect(warnings).toEqual([{ code: 'not-supported', message: 'a raster picture is left out', count: 1, page: 2 }]);
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
});
