import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, worldToScreen } from '../camera/camera.ts';
import { orientationOf } from '../camera/orbit.ts';
import { applyX, applyY } from '../geometry/affine.ts';
import {
  PICTURE_TILE_PX,
  pictureBox,
  pictureLevels,
  pictureParent,
  pictureTilesIn,
  pxPerLevelPx,
  tileOnPicture,
  type PictureTile,
  type PlacedPicture,
} from './picture-tiles.ts';

const viewport = { widthPx: 900, heightPx: 600 };
const pictures = fc
  .record({
    widthPx: fc.integer({ min: 64, max: 20_000 }),
    heightPx: fc.integer({ min: 1, max: 20_000 }),
    x: fc.integer({ min: 0, max: 500_000_000 }),
    y: fc.integer({ min: 0, max: 500_000_000 }),
    perPx: fc.double({ min: 0.1, max: 100, noNaN: true }),
    turn: fc.double({ min: 0, max: 6, noNaN: true }),
  })
  .map(({ widthPx, heightPx, x, y, perPx, turn }): PlacedPicture => {
    const [cos, sin] = [perPx * Math.cos(turn), perPx * Math.sin(turn)];
    const place = { a: cos * widthPx, b: sin * widthPx, c: sin * heightPx, d: -cos * heightPx, e: x, f: y };
    return { widthPx, heightPx, levels: pictureLevels(widthPx, heightPx), place, clip: null };
  });
const keyOf = ({ level, column, row }: PictureTile): string => `${level} ${column} ${row}`;

describe('the pyramid of a picture', () => {
  it.each([
    [1, 1, 1],
    [510, 300, 1],
    [511, 300, 2],
    [1020, 2, 2],
    [3000, 2000, 4],
  ])('of %i × %i px has %3$i levels', (width, height, levels) => {
    expect(pictureLevels(width, height)).toBe(levels);
  });

  it('has a tile wherever a view sees the picture, no coarser than the screen', () => {
    const shares = fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }));
    fc.assert(
      fc.property(pictures, shares, fc.double({ min: -6, max: 6, noNaN: true }), (picture, [u, v], zoom) => {
        const { place, widthPx, heightPx } = picture;
        const perPx = Math.hypot(place.a, place.b) / widthPx;
        const target = { x: applyX(place, u, v), y: applyY(place, u, v), z: 0 };
        const camera = planCamera(target, perPx * 2 ** zoom);
        const tiles = pictureTilesIn(picture, camera, viewport, 1);
        const [{ level }] = tiles as [PictureTile];
        const side = PICTURE_TILE_PX * pxPerLevelPx(picture, level);
        const index = (share: number, px: number): number =>
          Math.min(Math.floor((share * px) / side), Math.ceil(px / side) - 1);
        // rounding may put a place on the border of two tiles into either
        const near = (share: number, px: number): number[] => [-1e-6, 0, 1e-6].map((by) => index(share + by, px));
        const keys = new Set(tiles.map(keyOf));
        expect(
          near(u, widthPx).some((column) => near(v, heightPx).some((row) => keys.has(keyOf({ level, column, row })))),
        ).toBe(true);
        const pxOnScreen = pxPerLevelPx(picture, level) / 2 ** zoom;
        expect(pxOnScreen <= 1 + 1e-9 || level === picture.levels - 1).toBe(true);
        expect(pxOnScreen > 0.5 - 1e-9 || level === 0).toBe(true);
      }),
    );
  });

  it('isn’t asked where the view sees none of it', () => {
    const picture: PlacedPicture = {
      widthPx: 100,
      heightPx: 100,
      levels: 1,
      place: { a: 100, b: 0, c: 0, d: -100, e: 0, f: 100 },
      clip: null,
    };
    const beside = planCamera({ x: 1000, y: 0, z: 0 }, 1);
    expect(pictureTilesIn(picture, beside, viewport, 1)).toEqual([]);
    expect(pictureTilesIn({ ...picture, place: { ...picture.place, a: 0 } }, beside, viewport, 1)).toEqual([]);
    // nor where it would be dust
    expect(pictureTilesIn(picture, planCamera({ x: 0, y: 0, z: 0 }, 300), viewport, 1)).toEqual([]);
    const turned = {
      ...planCamera({ x: 50, y: 50, z: 0 }, 1),
      orientation: orientationOf({ bearingRad: 1, tiltRad: Math.PI / 2 }),
    };
    expect(pictureTilesIn(picture, turned, viewport, 1)).toHaveLength(1);
    const out = { minX: 200, minY: 0, maxX: 300, maxY: 100 };
    expect(pictureTilesIn({ ...picture, clip: out }, planCamera({ x: 50, y: 50, z: 0 }, 1), viewport, 1)).toEqual([]);
  });

  it('shows each place by the px that it has in the source, from any level', () => {
    fc.assert(
      fc.property(pictures, fc.nat(), fc.nat(), fc.nat(), (picture, a, b, c) => {
        const { widthPx, heightPx, levels, place } = picture;
        const level = c % levels;
        const side = PICTURE_TILE_PX * pxPerLevelPx(picture, level);
        const tile = { level, column: a % Math.ceil(widthPx / side), row: b % Math.ceil(heightPx / side) };
        let held: PictureTile = tile;
        for (let up = 0; up < a % 3; up++) held = pictureParent(held) ?? held;
        const image = { width: 512, height: 512 };
        const { place: own, part } = tileOnPicture(picture, tile, held, image);
        const k = pxPerLevelPx(picture, held.level);
        const begin = (index: number): number => index * PICTURE_TILE_PX - (index > 0 ? 1 : 0);
        for (const [s, t] of [
          [0, 0],
          [1, 1],
        ] as const) {
          const px = k * (begin(held.column) + (s === 0 ? part[0] : part[2]) * image.width);
          const py = k * (begin(held.row) + (t === 0 ? part[1] : part[3]) * image.height);
          const size = Math.hypot(place.a, place.b, place.c, place.d, place.e, place.f);
          expect(Math.abs(applyX(own, s, t) - applyX(place, px / widthPx, py / heightPx))).toBeLessThan(1e-12 * size);
          expect(Math.abs(applyY(own, s, t) - applyY(place, px / widthPx, py / heightPx))).toBeLessThan(1e-12 * size);
        }
      }),
    );
  });

  it('ends where its clip does', () => {
    const place = { a: 100, b: 0, c: 0, d: -50, e: 10, f: 70 };
    expect(pictureBox({ place, clip: null })).toEqual({ minX: 10, minY: 20, maxX: 110, maxY: 70 });
    const clip = { minX: 30, minY: 0, maxX: 500, maxY: 60 };
    expect(pictureBox({ place, clip })).toEqual({ minX: 30, minY: 20, maxX: 110, maxY: 60 });
    // what a camera sees of it is where it says
    const camera = planCamera({ x: 60, y: 45, z: 0 }, 0.5);
    expect(worldToScreen(camera, viewport, { x: 110, y: 20, z: 0 })).toEqual({ x: 550, y: 350 });
  });
});
