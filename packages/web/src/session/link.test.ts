import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { LinkedDto } from '@gull-pane/protocol/links';
import { LinkError, readLink, writeLink } from './link';
import { meantBy } from './open-link';

const drawingId = '0a3c5b1e-7d54-4f0e-9d0b-4b8f5d9b1c11';
const doubles = fc.double({ min: -8e9, max: 8e9, noNaN: true }).map((x) => x + 0); // −0 is written as 0
const links: fc.Arbitrary<LinkedDto> = fc
  .tuple(
    doubles,
    doubles,
    fc.double({ min: 1e-6, max: 1e6, noNaN: true }),
    fc.array(fc.string({ maxLength: 20 }), { maxLength: 4 }),
  )
  .map(([x, y, unitsPerPx, hiddenLayers]) => ({
    arranged: {
      tiling: { pane: '1' },
      active: '1',
      ties: [],
      panes: [
        {
          pane: '1',
          drawingId,
          widthPx: 640,
          heightPx: 480,
          camera: { x, y, z: 0, unitsPerPx, qx: 0, qy: 0, qz: 0, qw: 1 },
          shows: { hiddenLayers, hiddenObjects: '', revision: 1, clips: [] },
          isLocked: true,
          drifts: false,
          turnsAlone: false,
          orbitMode: 'level' as const,
          trail: { views: [], current: 0 },
        },
      ],
    },
    drawings: [{ id: drawingId, name: 'Pump hall', kind: 'flat', objects: 12 }],
  }));

describe('long links', () => {
  it('hold every digit and every letter, in letters that addresses leave alone', async () => {
    await fc.assert(
      fc.asyncProperty(links, async (linked) => {
        const written = await writeLink(linked);
        expect(encodeURIComponent(written)).toBe(written);
        expect(JSON.parse(JSON.stringify(await readLink(written)))).toEqual(linked);
      }),
      { numRuns: 40 },
    );
  });

  it('that are damaged, cut, foreign or newer say so', async () => {
    const [linked] = fc.sample(links, { numRuns: 1, seed: 1 });
    const written = await writeLink(linked!);
    const failing = async (text: string): Promise<string> => {
      try {
        await readLink(text);
      } catch (error) {
        if (error instanceof LinkError) return error.message;
      }
      return 'opened';
    };
    expect(await failing('')).toContain('empty');
    expect(await failing(written.slice(0, -12))).toContain('damaged');
    expect(await failing(`${written.slice(0, 20)}x${written.slice(21)}`)).toMatch(/damaged/);
    expect(await failing(`1.${btoa('nothing of ours')}`)).toContain('damaged');
    expect(await failing('hello')).toContain('no link of Gull Pane');
    expect(await failing(`7.${written.slice(2)}`)).toContain('newer version');
  });
});

describe('the drawing that a link means', () => {
  const told = { id: drawingId, name: 'Pump hall', kind: 'flat', objects: 12 } as const;
  const drawing = (change: object): DrawingDto =>
    ({ id: 'other', name: 'Pump hall', kind: 'flat', revision: 1, counts: { objects: 12 }, ...change }) as DrawingDto;

  it('is the one of its id, else one that is just like it, and no other', () => {
    const own = drawing({ id: drawingId, name: 'Renamed' });
    const like = drawing({});
    expect(meantBy(told, [like, own])).toBe(own);
    expect(meantBy(told, [drawing({ name: 'Hall' }), like])).toBe(like);
    for (const change of [{ name: 'Hall' }, { kind: 'solid' }, { counts: { objects: 13 } }, { revision: 0 }])
      expect(meantBy(told, [drawing(change)])).toBeUndefined();
  });
});
