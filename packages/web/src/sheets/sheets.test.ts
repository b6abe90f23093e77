import { describe, expect, it } from 'vitest';
import { orientationAtBearing } from '@gull-pane/core/camera/twist';
import { paperSize } from '@gull-pane/core/sheets/paper';
import { viewAreaOf } from '@gull-pane/core/sheets/sheet';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import { coveringGrid, firstShows, sheetOfCard, sheetsCovering, viewOfAll } from './lay-out';
import { movedFrame, noGuides, sizedFrame } from './move-frame';

const [EAST, NORTH] = [412_600_000, 7_208_400_000];
const layers = [
  { id: 0, name: 'Walls', isOff: false },
  { id: 1, name: 'Grid', isOff: true },
] as LayerDto[];
const drawing = {
  name: 'Pump hall',
  unit: 'mm',
  revision: 3,
  extents: { min: { x: EAST, y: NORTH, z: 0 }, max: { x: EAST + 19_000, y: NORTH + 8000, z: 0 } },
} as DrawingDto;
const of = { drawing, layers };
const paper = paperSize('A3', false);

describe('sheets of a drawing', () => {
  it('show all of it about its middle, without the layers that its file has off', () => {
    expect(viewOfAll(of, paper)).toEqual({ x: EAST + 9500, y: NORTH + 4000, bearingRad: 0, denominator: 50 });
    expect(firstShows(layers).hiddenLayers).toEqual(['Grid']);
  });

  it('show what a view card shows, at a standard scale that holds it, turned as it is', () => {
    const turn = orientationAtBearing(Math.PI / 2);
    const card = {
      name: 'Valve chamber',
      camera: { x: EAST, y: NORTH, z: 0, unitsPerPx: 10, qx: turn.x, qy: turn.y, qz: turn.z, qw: turn.w },
      widthPx: 1200,
      heightPx: 600,
      shows: { kindsOff: ['texts', 'unknown'], hiddenLayers: ['Walls'], hiddenObjects: '3-5', revision: 3, clips: [] },
    } as unknown as CardDto;
    const sheet = sheetOfCard(card, of, paper);
    const [frame] = sheet.frames;
    expect(sheet.name).toBe('Valve chamber');
    // 12 m on 390 mm
    expect(frame!.view).toMatchObject({ x: EAST, y: NORTH, denominator: 50 });
    expect(frame!.view.bearingRad).toBeCloseTo(Math.PI / 2, 12);
    expect(frame!.shows).toEqual({
      kindsOff: ['texts'],
      hiddenLayers: ['Walls'],
      hiddenMarkLayers: [],
      hiddenObjects: '3-5',
    });
    const older = { ...card, shows: { ...card.shows, revision: 2 } };
    expect(sheetOfCard(older, of, paper).frames[0]!.shows.hiddenObjects).toBe('');
  });

  it('cover it row by row, as many as the scale takes, and no more than a set may have', () => {
    const wish = { paper, denominator: 20, overlapMm: 10 };
    expect(coveringGrid(of, wish)).toEqual([3, 2]);
    const sheets = sheetsCovering(of, wish)!;
    expect(sheets.map(({ name }) => name)).toEqual(['Part A1', 'Part A2', 'Part A3', 'Part B1', 'Part B2', 'Part B3']);
    expect(sheets[0]!.matchLines.map(({ sheet }) => sheet).sort()).toEqual([1, 3]);
    expect(sheetsCovering(of, { ...wish, denominator: 0.5 })).toBeNull();
  });
});

describe('a frame that is dragged', () => {
  const frame = { ...viewAreaOf(paper), name: 'one' };

  it('stands on the grid, with all else as it was', () => {
    expect(movedFrame(frame, frame, [3.2, -7.1], noGuides).rect).toEqual({ ...frame, leftMm: 25, topMm: 5 });
    expect(movedFrame(frame, frame, [0.4, 0.4], noGuides).rect).toEqual({ ...frame, leftMm: 20, topMm: 10 });
  });

  it('is sized at a corner, while the one across stays', () => {
    const lower = sizedFrame(frame, 'lower right', [-103, -51], noGuides).rect;
    expect([lower.leftMm, lower.topMm]).toEqual([frame.leftMm, frame.topMm]);
    expect((lower.leftMm + lower.widthMm) % 5).toBe(0);
    const upper = sizedFrame(frame, 'upper left', [33, 21], noGuides).rect;
    expect(upper.leftMm + upper.widthMm).toBeCloseTo(frame.leftMm + frame.widthMm, 9);
    expect(upper.topMm + upper.heightMm).toBeCloseTo(frame.topMm + frame.heightMm, 9);
    expect([upper.leftMm, upper.topMm]).toEqual([55, 30]);
  });

  it('never gets smaller than can be used', () => {
    for (const corner of ['upper left', 'upper right', 'lower right', 'lower left'] as const) {
      const sign = corner.endsWith('left') ? 1 : -1;
      const way = [sign * 1000, corner.startsWith('upper') ? 1000 : -1000] as const;
      const small = sizedFrame(frame, corner, way, noGuides).rect;
      expect(small.widthMm).toBe(20);
      expect(small.heightMm).toBe(20);
    }
  });
});
