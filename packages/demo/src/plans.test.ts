import { describe, expect, it } from 'vitest';
import { countSegments, visitPath } from '@gull-pane/core/drawing/path';
import type { PathElement, TextElement } from '@gull-pane/core/drawing/model';
import { SvgReader } from '@gull-pane/importers/svg/read-svg';
import { writeLargeDrawing } from './large-drawing.ts';
import { writeSitePlan } from './site-plan.ts';
import { SCALE, SHEET_WIDTH } from './works.ts';

function read(make: (write: (text: string) => void) => number) {
  const pieces: string[] = [];
  const written = make((text) => pieces.push(text));
  const paths: PathElement[] = [];
  const texts: TextElement[] = [];
  const reader = new SvgReader({ path: (p) => paths.push(p), text: (t) => texts.push(t), picture: () => undefined });
  for (const piece of pieces) reader.write(piece);
  const lengths: number[] = [];
  for (const { path } of paths) visitPath(path, { line: (x0, y0, x, y) => lengths.push(Math.hypot(x - x0, y - y0)) });
  return { ...reader.end(), written, pieces, paths, texts, lengths };
}

describe('the site plan', () => {
  const plan = read(writeSitePlan);

  it('has what the demo promises: layers, segments, curves, weights, dashes, text heights', () => {
    expect(plan.unit).toBe('mm');
    expect(plan.warnings).toEqual([]);
    expect(plan.layers.length).toBeGreaterThanOrEqual(14);
    expect(plan.written).toBeGreaterThanOrEqual(60_000);
    expect(plan.paths.reduce((sum, { path }) => sum + countSegments(path), 0)).toBe(plan.written);
    expect(
      new Set(plan.styles.filter(({ kind }) => kind === 'line').map(({ width }) => width)).size,
    ).toBeGreaterThanOrEqual(3);
    expect(plan.styles.some(({ dashes }) => dashes.length > 0)).toBe(true);
    let curves = 0;
    for (const { path } of plan.paths) visitPath(path, { arc: () => curves++, cubic: () => curves++ });
    expect(curves).toBeGreaterThan(2000);
    const heights = plan.texts.map(({ mark }) => mark.size / SCALE);
    expect(Math.min(...heights)).toBeCloseTo(2.5, 9);
    expect(Math.max(...heights)).toBeCloseTo(10, 9);
  });

  it('lies on the made-up grid and names its valves', () => {
    const tags = plan.texts.map(({ mark }) => mark.text).filter((text) => text.startsWith('KS-VA-'));
    expect(tags).toContain('KS-VA-0417');
    expect(new Set(tags).size).toBe(tags.length);
    for (const { mark } of plan.texts) {
      expect(mark.x).toBeGreaterThan(412_300_000);
      expect(mark.y).toBeGreaterThan(7_208_200_000);
    }
  });

  it('is the same every time', () => {
    expect(read(writeSitePlan).pieces.join('')).toBe(plan.pieces.join(''));
  });
});

describe('a larger drawing', () => {
  const plan = read((write) => writeLargeDrawing(40_000, 1, write));

  it('has the segments asked for, about four to an element', () => {
    expect(Math.abs(plan.written - 40_000)).toBeLessThan(200);
    expect(plan.written / plan.paths.length).toBeCloseTo(4, 0);
  });

  it('spans four decades of length, at least 30 % a pixel or more at extents', () => {
    const sorted = plan.lengths.toSorted((a, b) => a - b);
    expect(sorted.at(-1)! / sorted[0]!).toBeGreaterThan(1e4);
    const pixel = SHEET_WIDTH / 1280;
    expect(sorted.filter((length) => length >= pixel).length / sorted.length).toBeGreaterThanOrEqual(0.3);
  });

  it('repeats nothing', () => {
    const elements = plan.pieces.filter((piece) => piece.startsWith('<path'));
    expect(new Set(elements).size).toBe(elements.length);
  });

  it('hands out one element after another, not the whole', () => {
    expect(Math.max(...plan.pieces.map((piece) => piece.length))).toBeLessThan(1000);
  });
});
