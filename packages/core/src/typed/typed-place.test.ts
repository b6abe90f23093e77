import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseTyped, typedExamples } from './typed-place.ts';

describe('typed places', () => {
  it('are places, ways, lengths and angles', () => {
    expect(parseTyped('412 600 500, 7208400250.5', 'mm')).toEqual({
      kind: 'place',
      x: 412600500,
      y: 7208400250.5,
      z: null,
    });
    expect(parseTyped('E 4126 N 7208', 'mm')).toEqual({ kind: 'place', x: 4126, y: 7208, z: null });
    expect(parseTyped('1, 2, −3', 'mm')).toEqual({ kind: 'place', x: 1, y: 2, z: -3 });
    expect(parseTyped('by 1500, -200', 'mm')).toEqual({ kind: 'by', x: 1500, y: -200, z: 0 });
    expect(parseTyped('1500 at 90', 'mm')).toEqual({ kind: 'by', x: 0, y: 1500, z: 0 });
    expect(parseTyped('1500 bearing 90', 'mm')).toEqual({ kind: 'by', x: 1500, y: 0, z: 0 });
    expect(parseTyped('.5', 'mm')).toEqual({ kind: 'length', length: 0.5 });
    expect(parseTyped('at 180°', 'mm')).toEqual({ kind: 'angle', angleRad: Math.PI });
  });

  it('take units along', () => {
    expect(parseTyped('1.5 m', 'mm')).toEqual({ kind: 'length', length: 1500 });
    expect(parseTyped('by 1 ft, 12 in', 'ft')).toEqual({ kind: 'by', x: 1, y: 1, z: 0 });
    expect(parseTyped('10', 'm')).toEqual({ kind: 'length', length: 10 });
  });

  it('may have decimal commas and grouped digits, as long as only one thing can be meant', () => {
    const place = { kind: 'place', x: 412_600_500.5, y: 7_208_400_250.25, z: null };
    for (const text of [
      '412600500,5 7208400250,25',
      '412600500,5; 7208400250,25',
      '412600500,5, 7208400250,25',
      '412 600 500,5 7 208 400 250,25',
      'E 412 600 500,5 N 7 208 400 250,25',
      '412600500.5,7208400250.25',
    ])
      expect(parseTyped(text, 'mm'), text).toEqual(place);
    expect(parseTyped('12,5 m', 'mm')).toEqual({ kind: 'length', length: 12_500 });
    expect(parseTyped('by 12,5; 3', 'mm')).toEqual({ kind: 'by', x: 12.5, y: 3, z: 0 });
    expect(parseTyped('1500 bearing N45W', 'mm')).toMatchObject({
      kind: 'by',
      x: expect.closeTo(-1060.66, 2) as number,
    });
    expect(parseTyped('412600500', 'mm')).toEqual({ kind: 'length', length: 412_600_500 });
    expect(parseTyped('12,5', 'mm')).toEqual({
      kind: 'unclear',
      trouble: '“12,5” can mean the place 12, 5 or 12.5: write one of these.',
    });
    expect(parseTyped('1,250 m', 'mm')).toMatchObject({ kind: 'unclear' });
  });

  it('are nothing else', () => {
    for (const text of ['', 'V-204', '1:200', 'by', 'by 3', '3 at', 'at north', '1,2,3,4', '1.2.3, 4'])
      expect(parseTyped(text, 'mm')).toBeNull();
    for (const [example] of typedExamples) expect(parseTyped(example, 'mm')).not.toBeNull();
  });

  it('mean what they say, for any numbers', () => {
    const number = fc.integer({ min: -1e9, max: 1e9 }).map((n) => n / 1000);
    fc.assert(
      fc.property(number, number, (x, y) => {
        expect(parseTyped(`${x}, ${y}`, 'mm')).toEqual({ kind: 'place', x, y, z: null });
        const way = parseTyped(`${Math.abs(x)} at ${y}`, 'mm');
        if (way?.kind === 'by') expect(Math.hypot(way.x, way.y)).toBeCloseTo(Math.abs(x), 5);
      }),
    );
  });
});
