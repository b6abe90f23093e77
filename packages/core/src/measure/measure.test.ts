import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../geometry/vec.ts';
import { figureText, figuresAsText, type FigureStyle } from './figures.ts';
import { circleThrough, measureKindOf } from './measure-kinds.ts';
import type { Placed } from './placed.ts';

const [E, N] = [412_345_678.25, 7_208_234_567.5];
const at = (x: number, y: number, z = 0): Vec3 => ({ x: E + x, y: N + y, z });
const figure = (kind: string, name: string, points: readonly Placed[]): number =>
  measureKindOf(kind)!
    .figures(points)!
    .find((one) => one.name === name)!.value;

describe('measuring', () => {
  it('tells a distance with its parts, its bearing and the whole way', () => {
    const points = [at(0, 0), at(0, 100), at(300, 500, 1200)];
    expect(figure('distance', 'Distance', points)).toBe(1300);
    expect(figure('distance', 'E', points)).toBe(300);
    expect(figure('distance', 'N', points)).toBe(400);
    expect(figure('distance', 'Z', points)).toBe(1200);
    expect(figure('distance', 'Total', points)).toBe(1400);
    expect(figure('distance', 'Bearing', [at(0, 0), at(-5, 5)])).toBeCloseTo(-Math.PI / 4, 15);
    expect(measureKindOf('distance')!.figures([at(0, 0)])).toBeNull();
  });

  it('tells angles with all digits, flat ones too', () => {
    expect(figure('angle', 'Angle', [at(100, 0), at(0, 0), at(0, 50)])).toBe(Math.PI / 2);
    expect(figure('angle', 'Angle', [at(100, 0), at(0, 0), { ...at(100, 0), z: 1e-4 }])).toBeCloseTo(1e-6, 15);
  });

  it('tells the circle that is pointed at, or the one through three points', () => {
    const round = { centre: at(5, 6), radius: 30 };
    expect(figure('radius', 'Radius', [{ ...at(35, 6), round }])).toBe(30);
    const circle = fc.record({ angle: fc.integer({ min: 1, max: 300 }), size: fc.integer({ min: 1, max: 10_000 }) });
    fc.assert(
      fc.property(circle, ({ angle, size }) => {
        const on = (degrees: number): Vec3 =>
          at(size * Math.cos((degrees * Math.PI) / 180), size * Math.sin((degrees * Math.PI) / 180));
        const found = circleThrough(on(0), on(angle), on(angle + 40))!;
        expect(found.radius / size).toBeCloseTo(1, 4);
        expect(Math.hypot(found.centre.x - E, found.centre.y - N) / size).toBeLessThan(1e-3);
      }),
    );
    expect(circleThrough(at(0, 0), at(10, 10), at(20, 20))).toBeNull();
  });

  it('tells area and perimeter of any polygon, in any plane', () => {
    const square = [at(0, 0), at(100, 0), at(100, 50), at(50, 25), at(0, 50)];
    expect(figure('area', 'Area', square)).toBe(100 * 25 + 2 * ((50 * 25) / 2));
    expect(figure('area', 'Perimeter', [at(0, 0), at(0, 0, 30), at(40, 0, 30)])).toBe(120);
    expect(figure('area', 'Area', [at(0, 0), at(0, 0, 30), at(40, 0, 30)])).toBe(600);
  });

  it('tells heights, and distances at right angles to faces', () => {
    expect(figure('height', 'Height', [at(0, 0, 10), at(30, 40, -15)])).toBe(-25);
    expect(figure('height', 'Level distance', [at(0, 0, 10), at(30, 40, -15)])).toBe(50);
    const up = { x: 0, y: 0, z: 1 };
    const down = { x: 0, y: 0, z: -1 };
    const faces: Placed[] = [
      { ...at(0, 0, 10), normal: up },
      { ...at(30, 40, 250), normal: down },
    ];
    expect(figure('faces', 'Face to face', faces)).toBe(240);
    expect(figure('faces', 'Point to face', [at(7, 7, 35), { ...at(30, 40, 250), normal: down }])).toBe(215);
    const side = { ...at(0, 0, 0), normal: { x: 1, y: 0, z: 0 } };
    expect(figure('faces', 'Angle of the faces', [faces[0]!, side])).toBeCloseTo(Math.PI / 2, 15);
    expect(measureKindOf('faces')!.figures([at(0, 0), at(1, 1)])).toBeNull();
  });
});

describe('what is kept of a measurement', () => {
  const again = (kind: string, points: readonly Placed[]): number => {
    const kept = measureKindOf(kind)!.kept!(points)!;
    return measureKindOf(kept.measure)!.figures(kept.points)![0]!.value;
  };

  it('is places alone, and they measure the same', () => {
    const round = { centre: at(5, 6), radius: 30 };
    expect(again('radius', [{ ...at(35, 6), round }])).toBeCloseTo(30, 6);
    const face = { ...at(0, 0, 10), normal: { x: 0, y: 0, z: 1 } };
    expect(again('faces', [face, at(30, 40, 250)])).toBe(240);
    expect(again('faces', [at(30, 40, 250), face])).toBe(240);
    expect(measureKindOf('faces')!.kept!([at(0, 0), at(1, 1)])).toBeNull();
  });
});

describe('figures', () => {
  const mm: FigureStyle = { unit: 'mm', shownIn: null, decimals: null, angles: 'deg' };
  it('are written in any unit, to any precision', () => {
    const length = { name: 'Distance', quantity: 'length', value: 63_595.25 } as const;
    expect(figureText(length, mm)).toBe('63\u202f595.25\u00a0mm');
    expect(figureText(length, { ...mm, shownIn: 'm', decimals: 2 })).toBe('63.60\u00a0m');
    expect(figureText({ ...length, value: 304.8 }, { ...mm, shownIn: 'ft' })).toBe('1\u00a0ft');
    expect(figureText({ ...length, quantity: 'area', value: 2_540_000 }, { ...mm, shownIn: 'm' })).toBe('2.54\u00a0m²');
    expect(figureText({ ...length, value: -1e-9 }, mm)).toBe('0\u00a0mm');
    expect(figureText(length, { ...mm, unit: 'none', shownIn: 'm' })).toBe('63\u202f595.25');
    expect(figureText({ name: 'Bearing', quantity: 'bearing', value: -Math.PI / 4 }, mm)).toBe('315°');
  });

  it('are written in feet and inches, the survey foot, centimetres and kilometres', () => {
    const told = (value: number, style: Partial<FigureStyle>): string =>
      figureText({ name: 'Distance', quantity: 'length', value }, { ...mm, ...style });
    expect(told(3743.325, { shownIn: 'ft-in' })).toBe('12′ 3 3/8″'); // 147.375 in
    expect(told(304.8 * 2 - 0.01, { shownIn: 'ft-in' })).toBe('2′ 0″'); // rounded up to whole feet
    expect(told(12.7, { shownIn: 'ft-in', decimals: 1 })).toBe('0 1/2″');
    expect(told(-25.4 * 13, { shownIn: 'ft-in' })).toBe('−1′ 1″');
    expect(told((1200 / 3937) * 1e9, { shownIn: 'ft US' })).toBe('1\u202f000\u202f000\u00a0ft US');
    expect(told(12_345, { shownIn: 'cm' })).toBe('1\u202f234.5\u00a0cm');
    expect(told(12_345, { shownIn: 'km' })).toBe('0.012345\u00a0km');
    const area = { name: 'Area', quantity: 'area', value: 304.8 ** 2 } as const;
    expect(figureText(area, { ...mm, shownIn: 'ft-in' })).toBe('1\u00a0ft²');
  });

  it('tell angles in degrees, in minutes and seconds, and in gon', () => {
    const told = (degrees: number, angles: FigureStyle['angles'], decimals: number | null = null): string =>
      figureText({ name: 'Angle', quantity: 'angle', value: (degrees * Math.PI) / 180 }, { ...mm, angles, decimals });
    expect(told(30.25, 'dms')).toBe('30° 15′ 00″');
    expect(told(29.999_999_99, 'dms')).toBe('30° 00′ 00″'); // never 59′ 60″
    expect(told(-12.51, 'dms', 1)).toBe('−12° 30′ 36.0″');
    expect(told(90, 'gon')).toBe('100\u00a0gon');
    expect(told(45.5, 'deg')).toBe('45.5°');
  });

  it('in feet and inches are within half of the finest fraction', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e7, max: 1e7 }), fc.nat(6), (value, halvings) => {
        const text = figureText(
          { name: 'Distance', quantity: 'length', value },
          { ...mm, shownIn: 'ft-in', decimals: halvings },
        );
        const [, sign, feet = '0', inches, over = '0', under = '1'] =
          /^(−?)(?:([\d\u202f]+)′ )?(\d+)(?: (\d+)\/(\d+))?″$/.exec(text)!;
        const read = Number(feet.replaceAll('\u202f', '')) * 12 + Number(inches) + Number(over) / Number(under);
        expect(Number(inches)).toBeLessThan(12);
        expect(Math.abs((sign === '' ? read : -read) * 25.4 - value)).toBeLessThanOrEqual(
          25.4 / 2 ** (halvings + 1) + 1e-6,
        );
      }),
    );
  });

  it('are copied as plain text', () => {
    const figures = measureKindOf('height')!.figures([at(0, 0, 1000), at(0, 0, -500)])!;
    expect(figuresAsText(figures, mm)).toBe('Height: -1500 mm\nLevel distance: 0 mm\nSlope: -90°');
  });
});
