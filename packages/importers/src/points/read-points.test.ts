import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SolidObject, SolidPart, SolidResult } from '@gull-pane/core/solid/solid-model';
import { modelFormatOf } from '../model/model-head.ts';
import { ReadError } from '../read-error.ts';
import { numberIn } from './number-bytes.ts';
import { pointColumnsOf } from './point-columns.ts';
import { readPoints } from './read-points.ts';

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

async function* pieces(bytes: Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield await Promise.resolve(bytes.subarray(at, at + size));
}

async function read(
  text: string,
  { size = 7, maxObjects = 1000 } = {},
): Promise<{ objects: SolidObject[]; parts: SolidPart[]; result: SolidResult }> {
  const objects: SolidObject[] = [];
  const parts: SolidPart[] = [];
  const bytes = bytesOf(text);
  const sink = {
    object: (object: SolidObject) => objects.push(object) - 1,
    part: (part: SolidPart) => void parts.push(part),
  };
  const result = await readPoints(pieces(bytes, size), sink, { maxObjects, size: bytes.length });
  return { objects, parts, result };
}

describe('a number in bytes', () => {
  it('is the one that the runtime reads, to the last bit', () => {
    const written = fc.oneof(
      fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
      fc
        .double({ min: -1e9, max: 1e9, noNaN: true })
        .chain((value) => fc.nat(15).map((places) => value.toFixed(places))),
      fc.stringMatching(/^[+-]?\d{1,25}(\.\d{0,25})?$/),
    );
    fc.assert(
      fc.property(written, (text) => {
        const bytes = bytesOf(`;${text} `);
        expect(numberIn(bytes, 1, 1 + text.length)).toBe(Number(text));
      }),
    );
  });

  it.each(['', '-', '.', '1.2.3', '0x10', '1e', 'e5', '--1', '1 2', 'NaN', '1,5'])('isn’t “%s”', (text) => {
    expect(numberIn(bytesOf(text), 0, text.length)).toBeNaN();
  });

  it('may have a decimal comma where that is meant', () => {
    expect(numberIn(bytesOf('-1,5'), 0, 4, true)).toBe(-1.5);
  });
});

describe('the columns of a list of points', () => {
  it.each([
    ['1 2 3\n4 5 6\n', { separator: 'blank', hasNames: false, x: 0, red: -1, intensity: -1, scale: 1000 }],
    ['1 2 3 40\n4 5 6 50\n', { intensity: 3, red: -1 }],
    ['1 2 3 255 0 12\n4 5 6 0 0 0\n', { intensity: -1, red: 3, blue: 5 }],
    ['1 2 3 0.4 255 0 12\n4 5 6 0.5 0 0 0\n', { intensity: 3, red: 4, blue: 6 }],
    ['P1,1,2,3\nP2,4,5,6\n', { separator: ',', name: 0, x: 1, z: 3 }],
    ['2\n1 2 3\n4 5 6\n', { hasNames: false, x: 0 }],
    ['x;y;z\n1,5;2,5;3\n', { separator: ';', isComma: true, hasNames: true }],
    ['1,5 2,5 3,0\n4,5 5 6\n', { separator: 'blank', isComma: true }],
    ['# Kelpie Sound\nEasting [mm],Northing [mm],Height [mm],Code\n1,2,3,PEG\n', { scale: 1, layer: 3, z: 2 }],
    ['"id","x_m","y_m","z_m","r","g","b","time"\n"a",1,2,3,4,5,6,7\n', { name: 0, x: 1, red: 4, unused: ['time'] }],
  ] as const)('%j', (text, columns) => {
    expect(pointColumnsOf(text)).toMatchObject(columns);
    expect(modelFormatOf(bytesOf(text), text.length)).toBe('points');
  });

  it.each(['1 2\n3 4\n', 'a,b,c\n1,2,3\n', 'x,y,z\n', 'x,y,z\n1,2,three\n', '1 2 3\n4 5\n', 'no list at all\n'])(
    'aren’t found in %j',
    (text) => {
      expect(pointColumnsOf(text)).toBeNull();
      expect(modelFormatOf(bytesOf(text), text.length)).toBeNull();
    },
  );
});

describe('a list of points', () => {
  it('comes in as it was written, however its pieces are cut', async () => {
    const coordinate = fc.double({ min: -1e7, max: 1e7, noNaN: true });
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 2, maxLength: 30 }),
        fc.integer({ min: 1, max: 300 }),
        async (points, size) => {
          const text = `x_mm y_mm z_mm\n${points.map((point) => point.join(' ')).join('\n')}`;
          const { parts } = await read(text, { size });
          expect(parts.flatMap(({ positions }) => [...positions])).toEqual(points.flat().map((value) => value + 0));
        },
      ),
    );
  });

  it('has layers by codes and objects by names', async () => {
    const { objects, parts, result } = await read(
      'id,easting,northing,height,code\nA1,412600.5,7216000,3,PEG\nA2,412601,7216001,4,PEG\nB1,412602,7216002,5,MANHOLE\n',
    );
    expect(result.layers.map(({ name }) => name)).toEqual(['PEG', 'MANHOLE']);
    expect(objects.map(({ name, layer }) => [name, layer])).toEqual([
      ['A1', 0],
      ['A2', 0],
      ['B1', 1],
    ]);
    expect([...parts[0]!.positions]).toEqual([412_600_500, 7_216_000_000, 3000]);
    expect(result.frame).toContain('metres');
  });

  it('has grey tones by intensity, or colours', async () => {
    const grey = await read('0 0 0 10\n1 0 0 30\n');
    expect([...grey.parts[0]!.points!.colours!]).toEqual([40, 40, 40, 230, 230, 230]);
    const coloured = await read('0 0 0 1 2 3\n1 0 0 255 254 253\n');
    expect([...coloured.parts[0]!.points!.colours!]).toEqual([1, 2, 3, 255, 254, 253]);
  });

  it('says which lines are left out', async () => {
    const { parts, result } = await read(`x,y,z,note\n1,2,3,a\n7,x,9,c\n10\n\n# end\n${'11,12,13,d\n'.repeat(20)}`);
    expect(parts[0]!.positions).toHaveLength(63);
    expect(result.warnings.map(({ code, message }) => `${code}: ${message}`)).toEqual([
      'not-a-number: points whose coordinates are no numbers are left out',
      'left-out: lines with fewer than three columns are left out',
      'left-out: columns that are left out: note',
    ]);
  });

  it('ends at its limit', async () => {
    await expect(read('1 2 3\n'.repeat(9), { maxObjects: 2 })).rejects.toBeInstanceOf(ReadError);
  });
});
