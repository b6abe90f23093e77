import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { editDistance } from './edit-distance.ts';
import { parseQuery } from './query.ts';
import { TextIndex, folded } from './text-index.ts';

describe('the language of the find field', () => {
  it.each([
    ['', { kind: 'nothing' }],
    ['412600500, 7208400250', { kind: 'place', x: 412_600_500, y: 7_208_400_250 }],
    ['412 600 500.25; 7 208 400 250', { kind: 'place', x: 412_600_500.25, y: 7_208_400_250 }],
    ['E 412600500 N 7208400250', { kind: 'place', x: 412_600_500, y: 7_208_400_250 }],
    ['E412 600 500, N7 208 400 250', { kind: 'place', x: 412_600_500, y: 7_208_400_250 }],
    ['-5 −7.5', { kind: 'place', x: -5, y: -7.5 }],
    ['by 1500, -200', { kind: 'moved', x: 1500, y: -200 }],
    ['1500 at 90', { kind: 'moved', x: 0, y: 1500 }],
    ['20 bearing 90', { kind: 'moved', x: 20, y: 0 }],
    ['1:200', { kind: 'scale', denominator: 200 }],
    [' 1 : 2 500 ', { kind: 'scale', denominator: 2500 }],
    ['scale 50', { kind: 'scale', denominator: 50 }],
    ['Scale 1:0.5', { kind: 'scale', denominator: 0.5 }],
    ['bearing 30', { kind: 'bearing', degrees: 30 }],
    ['bearing -12.5°', { kind: 'bearing', degrees: -12.5 }],
    ['back', { kind: 'steps', steps: -1 }],
    ['back 3', { kind: 'steps', steps: -3 }],
    ['FORWARD 2', { kind: 'steps', steps: 2 }],
    ['layer sea water', { kind: 'layer', name: 'sea water' }],
    ['sheet 3', { kind: 'sheet', number: 3 }],
    ['Sheet 3 of 5', { kind: 'text', text: 'Sheet 3 of 5' }],
    ['KS-VA-0417', { kind: 'text', text: 'KS-VA-0417' }],
    ['0417', { kind: 'text', text: '0417' }],
    ['back wash tank', { kind: 'unclear', expected: expect.stringContaining('back 3') as string }],
    ['scale house', { kind: 'unclear', expected: expect.stringContaining('1:200') as string }],
    ['1:0', { kind: 'unclear', expected: expect.stringContaining('1:200') as string }],
    ['bearing north', { kind: 'unclear', expected: expect.stringContaining('bearing 30') as string }],
    ['layer', { kind: 'unclear', expected: expect.stringContaining('layer pipe') as string }],
    ['back 0', { kind: 'unclear', expected: expect.stringContaining('back 3') as string }],
    ['scale', { kind: 'text', text: 'scale' }],
    ['backwash', { kind: 'text', text: 'backwash' }],
    ['412600500', { kind: 'text', text: '412600500' }],
  ])('“%s”', (input, expected) => expect(parseQuery(input)).toEqual(expected));

  it('understands every place as the page writes it, and never throws', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: -1e9, max: 1e9 }), (x, y) => {
        expect(parseQuery(`${x}, ${y}`)).toEqual({ kind: 'place', x: x + 0, y: y + 0 });
      }),
    );
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(parseQuery(text).kind).toBeTypeOf('string');
      }),
    );
  });
});

describe('the number of slips', () => {
  it.each([
    ['valve', 'valve', 0],
    ['vavle', 'valve', 1],
    ['valv', 'valve', 1],
    ['vallve', 'valve', 1],
    ['velve', 'valve', 1],
    ['pmup', 'pupm', 2],
    ['membrane', 'brine', 3],
  ])('%s, %s', (a, b, slips) => expect(editDistance(a, b, 2)).toBe(slips));

  it('is a distance, as the plain table says', () => {
    const words = fc.stringMatching(/^[abc]{0,7}$/);
    const plain = (a: string, b: string): number => {
      const d = Array.from({ length: a.length + 1 }, (_, i) => Array.from({ length: b.length + 1 }, (_, j) => i || j));
      for (let i = 0; i <= a.length; i++) d[i]![0] = i;
      for (let j = 0; j <= b.length; j++) d[0]![j] = j;
      for (let i = 1; i <= a.length; i++)
        for (let j = 1; j <= b.length; j++) {
          d[i]![j] = Math.min(
            d[i - 1]![j]! + 1,
            d[i]![j - 1]! + 1,
            d[i - 1]![j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1),
          );
          if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
            d[i]![j] = Math.min(d[i]![j]!, d[i - 2]![j - 2]! + 1);
        }
      return d[a.length]![b.length]!;
    };
    fc.assert(
      fc.property(words, words, fc.integer({ min: 0, max: 4 }), (a, b, most) => {
        expect(editDistance(a, b, most)).toBe(Math.min(plain(a, b), most + 1));
      }),
    );
  });
});

describe('texts are found', () => {
  const texts = [
    'KS-VA-0417',
    'KS-VA-0418',
    'Pump hall',
    'Pump hall',
    'Prüfstand',
    'Booster pump 3',
    'FFL +4.250',
    'E 412 050',
    'Fall 0.05',
    'A',
  ];
  const index = new TextIndex(texts);
  const contents = (query: string): string[] => index.find(query, 8).map(({ content }) => content);

  it.each([
    ['ks-va-0417', 'KS-VA-0417'],
    ['KSVA0417', 'KS-VA-0417'],
    ['ks va 0417', 'KS-VA-0417'],
    ['0418', 'KS-VA-0418'],
    ['va 418', 'KS-VA-0418'],
    ['VA-00418', 'KS-VA-0418'],
    ['E 412050', 'E 412 050'],
    ['0.05', 'Fall 0.05'],
    ['pump ha', 'Pump hall'],
    ['pmup hall', 'Pump hall'],
    ['hall pump', 'Pump hall'],
    ['prufstand', 'Prüfstand'],
    ['boster pump', 'Booster pump 3'],
    ['4.25', 'FFL +4.250'],
    ['a', 'A'],
  ])('%s', (query, content) => expect(contents(query)[0]).toBe(content));

  it('with all their places, and nothing for nothing', () => {
    expect(index.find('pump hall', 8)[0]!.places).toEqual([2, 3]);
    expect(contents('')).toEqual([]);
    expect(contents('---')).toEqual([]);
    expect(contents('zzzzzz')).toEqual([]);
  });

  it('every text by any part of itself, as going through all of them does', () => {
    const many = Array.from(
      { length: 400 },
      (_, i) => `Rack ${i * 37} of hall ${String.fromCharCode(65 + (i % 26))}${i}`,
    );
    const own = new TextIndex(many);
    const bare = (text: string): string =>
      folded(text)
        .replace(/^0+(?=\d)/, '')
        .replace(/[^a-z0-9]+/g, '');
    fc.assert(
      fc.property(fc.nat(399), fc.nat(8), fc.integer({ min: 1, max: 9 }), (which, from, length) => {
        const part = many[which]!.slice(from, from + length);
        if (bare(part) === '') return;
        const expected = many.filter((text) => bare(text).includes(bare(part)));
        const found = own.find(part, 400).filter(({ rank }) => rank < 4);
        expect(new Set(found.map(({ content }) => content))).toEqual(new Set(expected));
      }),
    );
  });
});
