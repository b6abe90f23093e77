import fc from 'fast-check';
import { strFromU8, strToU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { lengthsOf, shiftPoint } from './decimal.ts';
import { anyView, anyViews, circumstances, hall } from './testing/sample-views.ts';
import type { ExchangedView } from './view.ts';
import { readViews, viewFormats } from './view-formats.ts';

const limits = { mostClips: 4, depth: 5000 };
const format = (id: string) => viewFormats.find((one) => one.id === id)!;
const there = (id: string, views: readonly ExchangedView[]) => {
  const { bytes, losses } = format(id).write(views, hall, circumstances());
  return { back: readViews(bytes, hall, limits).views, losses, text: strFromU8(bytes) };
};
const without = (view: ExchangedView, ...fields: (keyof ExchangedView)[]): Partial<ExchangedView> =>
  Object.fromEntries(Object.entries(view).filter(([name]) => !fields.includes(name as keyof ExchangedView)));

describe('the point of a decimal', () => {
  it('is moved there and back without any rounding, whatever the double', () => {
    fc.assert(
      fc.property(
        fc.double({ noNaN: true, noDefaultInfinity: true }),
        fc.integer({ min: -9, max: 9 }),
        (value, places) => {
          expect(Number(shiftPoint(shiftPoint(String(value), places), -places))).toBe(value === 0 ? value + 0 : value);
        },
      ),
      { numRuns: 2000 },
    );
    const { read, write } = lengthsOf('mm');
    expect([write(0.1), write(-1234), write(7208400250.0001), write(0), write(1e-9)]).toEqual([
      '0.0001',
      '-1.234',
      '7208400.2500001',
      '0',
      '0.000000000001',
    ]);
    expect(read('1.5e3')).toBe(1_500_000);
    expect(() => read('1,5')).toThrow(/no number/);
    expect(() => read('')).toThrow(/no number/);
  });
});

describe('JSON', () => {
  it('brings everything back to the last digit, and tells no losses', () => {
    fc.assert(
      fc.property(anyViews, (views) => {
        const { back, losses } = there('json', views);
        expect(back).toEqual(views);
        expect(losses).toEqual([]);
      }),
    );
  });

  it.each([
    ['cut off', '{"format":"gull-pane-views","version":1', /isn’t whole JSON/],
    ['of another version', '{"format":"gull-pane-views","version":2,"views":[]}', /version/],
    [
      'with a view without size',
      '{"format":"gull-pane-views","version":1,"drawing":"a","unit":"mm","views":[{"name":"a"}]}',
      /views\.0\.widthPx/,
    ],
  ])('%s is refused with the reason', (_, text, told) => {
    expect(() => readViews(strToU8(text), hall, limits)).toThrow(told);
  });
});

describe('glTF cameras', () => {
  it('come back to the last digit, but for their pictures, which is told', () => {
    fc.assert(
      fc.property(anyViews, (views) => {
        const { back, losses } = there('gltf', views);
        expect(back).toEqual(views.map((view) => without(view, 'picture')));
        expect(losses.length).toBe(views.some(({ picture }) => picture) ? 1 : 0);
      }),
    );
  });

  it('are valid for others: unit quaternions, cameras of one kind, everything in one scene', () => {
    fc.assert(
      fc.property(anyViews, (views) => {
        const gltf = JSON.parse(there('gltf', views).text) as {
          readonly asset: { readonly version: string };
          readonly scenes: { readonly nodes: number[] }[];
          readonly nodes: { readonly camera: number; readonly rotation: number[]; readonly translation: number[] }[];
          readonly cameras: {
            readonly type: string;
            readonly orthographic?: Record<string, number>;
            readonly perspective?: Record<string, number>;
          }[];
        };
        expect(gltf.asset.version).toBe('2.0');
        expect(gltf.scenes[0]!.nodes).toEqual(views.map((_, k) => k));
        for (const { rotation, translation } of gltf.nodes) {
          expect(Math.hypot(...rotation)).toBeCloseTo(1, 12);
          expect(translation.every(Number.isFinite)).toBe(true);
        }
        for (const { type, orthographic, perspective } of gltf.cameras) {
          expect([orthographic, perspective].filter(Boolean)).toHaveLength(1);
          if (type === 'perspective') expect(perspective!.yfov).toBeLessThan(Math.PI);
          else expect(orthographic!.zfar).toBeGreaterThan(orthographic!.znear!);
        }
      }),
    );
  });

  it('of others are placed by their nodes, with Y up and metres', () => {
    const file = {
      asset: { version: '2.0' },
      scenes: [{ nodes: [0] }],
      nodes: [
        { translation: [10, 0, 0], children: [1] },
        { name: 'From the south', camera: 0, translation: [0, 2, -5] },
      ],
      cameras: [{ type: 'orthographic', orthographic: { xmag: 3, ymag: 2, znear: 0, zfar: 10 } }],
    };
    const { views } = readViews(strToU8(JSON.stringify(file)), hall, limits);
    const { name, camera, widthPx, heightPx } = views[0]!;
    expect([name, widthPx, heightPx]).toEqual(['From the south', 1200, 800]);
    expect(camera.unitsPerPx * heightPx).toBeCloseTo(4000, 9);
    // it stands at (10, 5, 2) m, looks north, 6 m into it
    expect([camera.x, camera.y, camera.z].map(Math.round)).toEqual([10_000, 11_000, 2000]);
  });

  it.each([
    ['another JSON', '{"a":1}', /isn’t glTF 2.0/],
    ['no cameras', '{"asset":{"version":"2.0"},"nodes":[{"name":"a"}]}', /no cameras/],
  ])('with %s are refused', (_, text, told) => {
    expect(() => readViews(strToU8(text), hall, limits)).toThrow(told);
  });
});

describe('CSV', () => {
  it('brings cameras, names and layers back to the last digit', () => {
    fc.assert(
      fc.property(fc.array(anyView, { minLength: 1, maxLength: 4 }), (views) => {
        const { back } = there('csv', views);
        for (const [k, { name, group, camera, widthPx, heightPx }] of views.entries())
          expect(back[k]).toMatchObject({ name, group, camera, widthPx, heightPx });
      }),
    );
  });

  it('keeps names that a spreadsheet would run as formulas', () => {
    const view: ExchangedView = {
      name: '=1+1',
      group: '@home, "quoted"',
      widthPx: 1,
      heightPx: 1,
      camera: { x: 0, y: 0, z: 0, unitsPerPx: 1, qx: 0, qy: 0, qz: 0, qw: 1 },
      shows: { hiddenLayers: ['Gratings', 'Grid lines'], hiddenObjects: '1', revision: 3, clips: [], look: 'shaded' },
    };
    const { back, losses, text } = there('csv', [view]);
    expect(text).toMatch(/^name,group,x,y/);
    expect(text).toContain("'=1+1");
    expect(back[0]).toMatchObject({
      name: '=1+1',
      group: view.group,
      shows: { hiddenLayers: ['Gratings', 'Grid lines'] },
    });
    expect(losses).toEqual(['Single hidden objects aren’t in the table.']);
  });

  it.each([
    ['a column missing', 'name,x,unitsPerPx\r\na,1,1\r\n', /no column y/],
    ['a word for a number', 'name,x,y,unitsPerPx\na,1,zwei,1\n', /Line 2: y is “zwei”/],
    ['nothing for a size', 'name,x,y,unitsPerPx\na,1,2,0\n', /Line 2: unitsPerPx/],
  ])('with %s is refused with the line', (_, text, told) => {
    expect(() => readViews(strToU8(text), hall, limits)).toThrow(told);
  });
});

it('a file without views is refused', () => {
  expect(() => readViews(new Uint8Array(), hall, limits)).toThrow(/empty/);
  expect(() => readViews(strToU8('<svg/>'), hall, limits)).toThrow(/No views/);
});
