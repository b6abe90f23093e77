import { expect, it } from 'vitest';
import { planCamera } from '@gull-pane/core/camera/camera';
import type { FineLines } from '../../tiles/refiner';
import { allKinds } from '@gull-pane/core/view/shown';
import { MAX_CHORD_ERROR_PX, fineWish } from './fine-wish';

const tile = {
  uri: '',
  origin: { x: 1000, y: 0, z: 0 },
  texts: 0,
  detail: '1.detail',
  tolerance: 10,
  fills: '1.fills',
  fillTolerance: 40,
  centre: { x: 1000, y: 0, z: 0 },
  halfSize: { x: 20_000, y: 20_000, z: 0 },
  largest: 1,
  weight: 1,
  children: [],
};
const view = (unitsPerPx: number, x = 1000) => ({
  camera: planCamera({ x, y: 0, z: 0 }, unitsPerPx),
  viewport: { widthPx: 1000, heightPx: 800 },
  hiddenLayers: new Set<number>(),
  kinds: allKinds,
  clips: [],
  smoothEdges: true,
  sheet: null,
  look: 'lines' as const,
});
const fine = (chordError: number, region: FineLines['region']) => ({ chordError, region }) as FineLines;

it('asks for nothing while the coarse lines don’t show, or there is nothing finer', () => {
  expect(fineWish(tile, 'lines', null, view(50), 1)).toBeNull();
  expect(fineWish({ ...tile, detail: '' }, 'lines', null, view(1), 1)).toBeNull();
});

it('asks for curves that keep within a third of a device px, with some reserve', () => {
  const wish = fineWish(tile, 'lines', null, view(20), 1)!;
  expect(wish.chordError).toBeLessThan(MAX_CHORD_ERROR_PX * 20);
  expect(wish.region).toBeNull();
  expect(fineWish(tile, 'lines', fine(wish.chordError, null), view(20), 1)).toBeNull();
  expect(fineWish(tile, 'lines', fine(wish.chordError, null), view(20), 3)).not.toBeNull();
  expect(fineWish(tile, 'lines', fine(wish.chordError / 500, null), view(20), 1)).not.toBeNull();
});

it('asks only for what is near where the tile is far larger than the view, and again when the view has left that', () => {
  const wish = fineWish(tile, 'lines', null, view(0.1), 1)!;
  expect(wish.region!.maxX - wish.region!.minX).toBeLessThan(1000);
  const there = fine(wish.chordError, wish.region);
  expect(fineWish(tile, 'lines', there, view(0.1), 1)).toBeNull();
  expect(fineWish(tile, 'lines', there, view(0.1, 1050), 1)).toBeNull();
  expect(fineWish(tile, 'lines', there, view(0.1, 3000), 1)).not.toBeNull();
});

it('looks at areas by their own coarseness', () => {
  expect(fineWish(tile, 'lines', null, view(50), 1)).toBeNull();
  expect(fineWish(tile, 'fills', null, view(50), 1)).not.toBeNull();
  expect(fineWish({ ...tile, fills: '' }, 'fills', null, view(50), 1)).toBeNull();
});
