import { describe, expect, it } from 'vitest';
import type { PictureElement } from '@gull-pane/core/drawing/model';
import { applyX, applyY, type Affine } from '@gull-pane/core/geometry/affine';
import { transverseMercator } from '@gull-pane/core/geometry/transverse-mercator';
import { readWhole } from '../svg/read-whole.ts';
import { bytesOfDataUri } from './data-uri.ts';
import { geoPlaceOf } from './geo-tiff.ts';
import { beginsLikePicture, pictureSize } from './picture-size.ts';
import { readPicture } from './read-picture.ts';
import { pngHead, tiffOf } from './test-pictures.ts';

const uriOf = (bytes: Uint8Array): string => `data:image/png;base64,${btoa(String.fromCharCode(...bytes))}`;
const wide = uriOf(pngHead(200, 100));
const inSvg = (image: string, root = ''): ReturnType<typeof readWhole> =>
  readWhole(`<svg xmlns="http://www.w3.org/2000/svg" ${root}>${image}</svg>`);
/** Its corners, drawing units: the upper left, the upper right, the lower left. */
const corners = ({ a, b, c, d, e, f }: Affine): number[] =>
  [e, f, e + a, f + b, e + c, f + d].map((value) => value + 0);

describe('a data URI', () => {
  it('holds bytes in base 64 or as they are', () => {
    expect(bytesOfDataUri('data:image/png;base64,AAEC\n/w==')).toEqual({
      mediaType: 'image/png',
      bytes: Uint8Array.of(0, 1, 2, 255),
    });
    expect(bytesOfDataUri('data:image/svg+xml;charset=utf-8,%3Csvg/%3E')).toMatchObject({ mediaType: 'image/svg+xml' });
    expect(bytesOfDataUri('picture.png')).toBeNull();
    expect(bytesOfDataUri('data:image/png;base64,*')).toBeNull();
    expect(bytesOfDataUri('data:nothing')).toBeNull();
  });
});

describe('the size of a picture', () => {
  it('is read from the first bytes', () => {
    expect(pictureSize(pngHead(200, 100))).toEqual({ widthPx: 200, heightPx: 100 });
    expect(pictureSize(Uint8Array.of(1, 2, 3))).toBeNull();
    expect(pictureSize(new TextEncoder().encode('<svg width="10" height="10"/>'))).toBeNull();
    expect(pictureSize(pngHead(4_000_000_000, 1))).toBeNull();
    expect(beginsLikePicture(pngHead(1, 1))).toBe(true);
    expect(beginsLikePicture(tiffOf({}))).toBe(true);
    expect(beginsLikePicture(new TextEncoder().encode('II*'))).toBe(false);
  });
});

describe('a picture in an SVG', () => {
  it.each([
    ['fills its box where it has the same sides', 'x="10" y="20" width="50" height="25"', [10, -20, 60, -20, 10, -45]],
    ['has its own size by default', '', [0, 0, 200, 0, 0, -100]],
    ['keeps its aspect ratio with one side given', 'width="50"', [0, 0, 50, 0, 0, -25]],
    ['fits in the middle', 'width="200" height="300"', [0, -100, 200, -100, 0, -200]],
    [
      'is stretched where that is asked for',
      'width="10" height="10" preserveAspectRatio="none"',
      [0, 0, 10, 0, 0, -10],
    ],
    ['is turned with all the rest', 'transform="rotate(90)"', [0, 0, 0, -200, -100, 0]],
  ])('%s', (_, attributes, places) => {
    const { pictures, warnings } = inSvg(`<image ${attributes} href="${wide}"/>`);
    expect(warnings).toEqual([]);
    expect(corners(pictures[0]!.place).map((value) => Math.round(1e9 * value) / 1e9 + 0)).toEqual(places);
    expect(pictures[0]).toMatchObject({ clip: null, opacity: 1, source: { kind: 'file' } });
  });

  it('is cut where it covers its box, and has its opacity', () => {
    const { pictures } = inSvg(
      `<g opacity="0.5"><image width="100" height="100" preserveAspectRatio="xMidYMid slice" href="${wide}"/></g>`,
    );
    expect(pictures[0]).toMatchObject({ opacity: 0.5, clip: { minX: 0, minY: -100, maxX: 100, maxY: 0 } });
    expect(corners(pictures[0]!.place)).toEqual([-50, 0, 150, 0, -50, -100]);
  });

  it('is cut by the box of a clip of another shape, with a warning', () => {
    const { pictures, warnings } = inSvg(
      `<clipPath id="c"><circle cx="50" cy="50" r="40"/></clipPath><image clip-path="url(#c)" href="${wide}"/>`,
    );
    expect(pictures[0]!.clip).toMatchObject({ minX: 10, maxX: 90 });
    expect(warnings[0]!.message).toContain('cut by the box');
  });

  it.each([
    ['something outside', 'href="photo.png"', /outside the file/],
    ['another drawing', 'href="data:image/svg+xml,%3Csvg/%3E"', /drawings within pictures/],
    ['what is no picture', 'href="data:image/png;base64,AAAA"', /can’t be read/],
  ])('that is %s is left out and said', (_, attributes, message) => {
    const { pictures, warnings } = inSvg(`<image width="9" height="9" ${attributes}/>`);
    expect(pictures).toEqual([]);
    expect(warnings[0]!.message).toMatch(message);
  });
});

describe('where a GeoTIFF lies', () => {
  const grid = { 33_550: [0.5, 0.25, 0.5], 33_922: [0, 0, 0, 412_600.5, 7_208_400.25, 0.5] };
  const keys = (...entries: readonly number[]): number[] => [1, 1, 0, entries.length / 4, ...entries];

  it.each([true, false])('is placed by a tie point and a pixel scale, little-endian: %s', (isLittle) => {
    const bytes = tiffOf({ ...grid, 34_735: keys(1024, 0, 1, 1, 1025, 0, 1, 1, 3076, 0, 1, 9001) }, isLittle);
    expect(geoPlaceOf(bytes)).toEqual({
      toMap: { a: 0.5, b: 0, c: 0, d: -0.25, e: 412_600.5, f: 7_208_400.25 },
      metresPerUnit: 1,
    });
  });

  it('counts from the middles of px where these are points, and in feet where it says so', () => {
    const bytes = tiffOf({ ...grid, 34_735: keys(1024, 0, 1, 1, 1025, 0, 1, 2, 3076, 0, 1, 9002) });
    expect(geoPlaceOf(bytes)).toEqual({
      toMap: { a: 0.5, b: 0, c: 0, d: -0.25, e: 412_600.25, f: 7_208_400.375 },
      metresPerUnit: 0.3048,
    });
  });

  it('may be turned by a matrix', () => {
    const matrix = [0.3, 0.4, 0, 1000.5, 0.4, -0.3, 0, 2000.5, 0, 0, 0, 0.5, 0, 0, 0, 1];
    expect(geoPlaceOf(tiffOf({ 34_264: matrix }))!.toMap).toEqual({
      a: 0.3,
      b: 0.4,
      c: 0.4,
      d: -0.3,
      e: 1000.5,
      f: 2000.5,
    });
  });

  it('isn’t known of other files', () => {
    expect(geoPlaceOf(tiffOf({ 256: [100] }))).toBeNull();
    expect(geoPlaceOf(pngHead(9, 9))).toBeNull();
    expect(geoPlaceOf(tiffOf(grid).slice(0, 40))).toBeNull();
  });
});

describe('a picture as a drawing', () => {
  function drawingOf(bytes: Uint8Array, pxPerInch: number | null) {
    const pictures: PictureElement[] = [];
    const sink = { path: () => undefined, text: () => undefined, picture: (one: PictureElement) => pictures.push(one) };
    const result = readPicture(bytes, { widthPx: 200, heightPx: 100, pxPerInch }, sink);
    return { place: pictures[0]!.place, told: result.warnings[0]!.message, ...result };
  }

  it('lies at the size of its paper', () => {
    const { place, told } = drawingOf(pngHead(200, 100), 100);
    expect(corners(place).map((value) => Math.round(value * 1e9) / 1e9)).toEqual([0, 25.4, 50.8, 25.4, 0, 0]);
    expect(told).toContain('100 px an inch');
    expect(drawingOf(pngHead(200, 100), null).told).toContain('doesn’t tell');
  });

  it('lies on its grid, in millimetres', () => {
    const bytes = tiffOf({ 33_550: [0.5, 0.5, 0.5], 33_922: [0, 0, 0, 412_600.5, 7_208_400.25, 0.5] });
    const { place } = drawingOf(bytes, 72);
    expect(corners(place)).toEqual([
      412_600_500, 7_208_400_250, 412_700_500, 7_208_400_250, 412_600_500, 7_208_350_250,
    ]);
  });

  it('lies on a plane where its map has degrees, true at its corners', () => {
    const bytes = tiffOf({
      33_550: [1e-5, 1e-5, 0.5],
      33_922: [0, 0, 0, 10.5, 54.25, 0.5],
      34_735: [1, 1, 0, 1, 1024, 0, 1, 2],
    });
    const { place, meridianDeg } = drawingOf(bytes, 72);
    expect(meridianDeg).toBeCloseTo(10.501, 12);
    for (const [u, v] of [
      [0, 0],
      [1, 0],
      [0, 1],
    ] as const) {
      const { x, y } = transverseMercator(10.5 + 2e-3 * u, 54.25 - 1e-3 * v, meridianDeg!);
      expect(applyX(place, u, v)).toBeCloseTo(1000 * x, 3);
      expect(applyY(place, u, v)).toBeCloseTo(1000 * y, 3);
    }
  });
});
