import { NearestSurfaces, walkTriangle } from './nearest-surfaces.ts';
import { CORNERS, type SeenScene } from './seen-scene.ts';
import { bandsOf, type Sampling } from './visible-lines.ts';

/** Samples of a px along each side: edges of surfaces come out smooth. */
const SAMPLES = 2;
/** So much a surface of a model that is seen through covers. */
const SEE_THROUGH = 0.2;

/** A shaded picture, red, green, blue of each px, row by row, on white. */
export interface ShadedPicture {
  readonly width: number;
  readonly height: number;
  readonly pixels: Uint8Array;
}

/**
 * Surfaces of a scene as a picture.
 * @param perUnit px in a unit of the picture
 * @param isSeenThrough all surfaces show through each other
 */
export function shadedPicture(
  scene: SeenScene,
  { width, height }: Pick<Sampling, 'width' | 'height'>,
  perUnit: number,
  isSeenThrough: boolean,
): ShadedPicture {
  const [columns, rows] = [Math.max(Math.round(width * perUnit), 1), Math.max(Math.round(height * perUnit), 1)];
  const sums = new Uint16Array(3 * columns * rows);
  const fine = { width: columns / perUnit, height: rows / perUnit, perUnit: SAMPLES * perUnit, slack: () => 0 };
  for (const {
    rows: [first, end],
    ...band
  } of bandsOf(fine)) {
    const inner = { ...band, top: first, height: end - first };
    const colours = isSeenThrough ? throughColours(scene, inner, fine.perUnit) : nearestColours(scene, inner, fine);
    for (let y = 0; y < inner.height; y++)
      for (let x = 0; x < inner.width; x++) {
        const [px, py] = [(x / SAMPLES) | 0, ((y + first) / SAMPLES) | 0];
        if (px >= columns || py >= rows) continue;
        const [from, to] = [3 * (y * inner.width + x), 3 * (py * columns + px)];
        for (let k = 0; k < 3; k++) sums[to + k]! += colours[from + k]!;
      }
  }
  const pixels = new Uint8Array(sums.length);
  for (let i = 0; i < sums.length; i++) pixels[i] = Math.round(sums[i]! / (SAMPLES * SAMPLES));
  return { width: columns, height: rows, pixels };
}

type Inner = { readonly top: number; readonly width: number; readonly height: number };

function nearestColours(scene: SeenScene, band: Inner, { perUnit }: Sampling): Uint8Array {
  const { triangle } = new NearestSurfaces(scene, band, perUnit, () => 0);
  const colours = new Uint8Array(3 * triangle.length).fill(255);
  for (let i = 0; i < triangle.length; i++) {
    const one = triangle[i]!;
    if (one < 0) continue;
    const shares = sharesAt(
      scene,
      one,
      ((i % band.width) + 0.5) / perUnit,
      (((i / band.width) | 0) + band.top + 0.5) / perUnit,
    );
    for (let k = 0; k < 3; k++) colours[3 * i + k] = colourAt(scene, one, shares, k);
  }
  return colours;
}

function throughColours(scene: SeenScene, band: Inner, perUnit: number): Float32Array {
  const colours = new Float32Array(3 * band.width * band.height).fill(255);
  const corners = scene.corners.view();
  for (let triangle = 0; triangle < scene.triangleCount; triangle++)
    walkTriangle(corners, triangle, perUnit, band, (y, from, to) => {
      const y0 = (y + 0.5) / perUnit;
      const first = sharesAt(scene, triangle, (from + 0.5) / perUnit, y0);
      const last = to - from > 1 ? sharesAt(scene, triangle, (to - 0.5) / perUnit, y0) : first;
      for (let k = 0; k < 3; k++) {
        // colours are linear along a row
        let colour = colourAt(scene, triangle, first, k);
        const step = to - from > 1 ? (colourAt(scene, triangle, last, k) - colour) / (to - from - 1) : 0;
        let at = 3 * ((y - band.top) * band.width + from) + k;
        for (let x = from; x < to; x++, at += 3, colour += step) colours[at]! += SEE_THROUGH * (colour - colours[at]!);
      }
    });
  return colours;
}

/** How much the second and the third corner of a triangle count at a place. */
function sharesAt(scene: SeenScene, triangle: number, x: number, y: number): readonly [number, number] {
  const c = scene.corners;
  const at = CORNERS * triangle;
  const [ax, ay] = [c.at(at), c.at(at + 1)];
  const [ux, uy, vx, vy] = [c.at(at + 3) - ax, c.at(at + 4) - ay, c.at(at + 6) - ax, c.at(at + 7) - ay];
  const area = ux * vy - uy * vx || 1;
  const [dx, dy] = [x - ax, y - ay];
  return [(dx * vy - dy * vx) / area, (ux * dy - uy * dx) / area];
}

function colourAt(scene: SeenScene, triangle: number, [s, t]: readonly [number, number], channel: number): number {
  const at = CORNERS * triangle + channel;
  const c = scene.colours;
  const value = c.at(at) + s * (c.at(at + 3) - c.at(at)) + t * (c.at(at + 6) - c.at(at));
  return Math.min(Math.max(Math.round(value), 0), 255);
}
