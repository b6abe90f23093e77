import { describe, expect, it } from 'vitest';
import { planCamera } from '@gull-pane/core/camera/camera';
import type { Tileset } from '@gull-pane/protocol/read-tileset';
import { allKinds } from '@gull-pane/core/view/shown';
import type { PaneView } from '../picture/pane-view';
import { ViewRules, overlaps } from './view-rules';

const style = (width: number, dashes: number[] = [], layer = 0, kind: 'line' | 'fill' = 'line') => ({
  kind,
  layer,
  width,
  dashes,
  colour: [0, 0, 0, 255] as const,
});
const tile = (half: number, tolerance: number) => ({
  uri: '',
  texts: 0,
  detail: '',
  tolerance,
  fills: '',
  fillTolerance: 2 * tolerance,
  largest: 1,
  weight: 1,
  children: [],
  origin: { x: 0, y: 0, z: 0 },
  centre: { x: 0, y: 0, z: 0 },
  halfSize: { x: half, y: half, z: 0 },
});
const tileset: Tileset = {
  styles: [style(65), style(250), style(250, [10, 5]), style(250, [], 3), style(0, [], 0, 'fill')],
  tiles: [tile(300_000, 150), tile(1000, 1)],
  pictures: [],
  picturesUri: '',
};
const view = (unitsPerPx: number, more: Partial<PaneView> = {}): PaneView => ({
  camera: planCamera({ x: 100, y: 0, z: 0 }, unitsPerPx),
  viewport: { widthPx: 1000, heightPx: 800 },
  hiddenLayers: new Set([3]),
  kinds: allKinds,
  clips: [],
  smoothEdges: true,
  sheet: null,
  look: 'lines',
  ...more,
});
const rules = (unitsPerPx: number, more?: Partial<PaneView>, pixelRatio = 1): ViewRules =>
  new ViewRules(view(unitsPerPx, more), tileset, pixelRatio);

describe('a style', () => {
  it('is a hairline until it is wide enough to be seen, sooner on dense screens', () => {
    expect(rules(500).lookOf(1)).toBe('hairline');
    expect(rules(100).lookOf(1)).toBe('stroke');
    expect(rules(100).lookOf(0)).toBe('hairline');
    expect(rules(100).lookOf(2)).toBe('dashedStroke');
    expect(rules(300, {}, 2).lookOf(1)).toBe('stroke');
  });

  it('is hidden with its layer or its kind, and plain where nothing else is wanted', () => {
    expect(rules(100).lookOf(3)).toBe('hidden');
    expect(rules(100, { kinds: { ...allKinds, fills: false } }).lookOf(4)).toBe('hidden');
    expect(rules(100, { kinds: { ...allKinds, dashes: false } }).lookOf(2)).toBe(rules(100).lookOf(1));
    // colours are no matter of weight and dashes
    const colourless = rules(100, { kinds: { ...allKinds, lineStyles: false } });
    for (const style of [0, 1, 2, 3, 4]) expect(colourless.lookOf(style)).toBe(rules(100).lookOf(style));
  });
});

describe('a tile', () => {
  it('is drawn anew about the view when it is far larger, or single precision would show', () => {
    expect(rules(600).isNear(0)).toBe(false);
    expect(rules(10).isNear(0)).toBe(true);
    expect(rules(10).isNear(1)).toBe(false);
    expect(rules(0.0001).isNear(1)).toBe(true);
  });

  it('needs its exact form where its coarse one would be off by a third of a device px', () => {
    expect(rules(600).needsFine(0, 'lines')).toBe(false);
    expect(rules(400).needsFine(0, 'lines')).toBe(true);
    expect(rules(600, {}, 2).needsFine(0, 'lines')).toBe(true);
  });

  it('is seen in part or whole', () => {
    const box = { minX: -1000, minY: -1000, maxX: 1000, maxY: 1000 };
    expect(rules(10).seenFrom({ x: 0, y: 0, z: 0 }, box)).toBeNull();
    expect(rules(1).seenFrom({ x: 0, y: 0, z: 0 }, box)).toEqual({ minX: -400, minY: -400, maxX: 600, maxY: 400 });
  });
});

it('boxes overlap also where they only touch', () => {
  const box = { minX: 0, minY: 0, maxX: 1, maxY: 1 };
  expect(overlaps(box, { minX: 1, minY: 1, maxX: 2, maxY: 2 })).toBe(true);
  expect(overlaps(box, { minX: 1.1, minY: 0, maxX: 2, maxY: 1 })).toBe(false);
});
