import { PNG } from 'pngjs';
import { planCamera, cameraAxes, type Camera } from '@gull-pane/core/camera/camera';
import { fitPoints } from '@gull-pane/core/camera/fit';
import { orientationOf } from '@gull-pane/core/camera/orbit';
import { pieceFrom, type TilePiece } from '@gull-pane/core/solid/solid-items';
import type { Material } from '@gull-pane/core/solid/solid-model';
import { PICTURE_HEIGHT, PICTURE_WIDTH } from './picture.ts';

/** Looks north-west and down, as a drawing of a model is opened. */
const DIRECTION = { bearingRad: (7 * Math.PI) / 4, tiltRad: Math.atan(Math.SQRT1_2) };
const FINER = 2;

/** A small picture isn't worth more: where very many large triangles lie over one another, the rest isn't drawn. */
const MOST_FILLED_PX = 300_000_000;

/**
 * A small picture of a model for its card: shaded surfaces on transparent paper, PNG.
 * @param pieces of all of it; a coarse form that is off by a px of the picture at most will do
 * @param support x, y, z triples that a fit looks at
 */
export function drawSolidPicture(
  pieces: Iterable<TilePiece>,
  materials: readonly Material[],
  support: ArrayLike<number>,
): Buffer {
  const [width, height] = [FINER * PICTURE_WIDTH, FINER * PICTURE_HEIGHT];
  const viewport = { widthPx: width, heightPx: height };
  const limits = { minUnitsPerPx: Number.MIN_VALUE, maxUnitsPerPx: Number.MAX_VALUE };
  const start: Camera = { ...planCamera({ x: 0, y: 0, z: 0 }, 1), orientation: orientationOf(DIRECTION) };
  const camera = fitPoints(start, viewport, support, limits, 20);
  const { back, right, up } = cameraAxes(camera);
  const light = {
    x: 0.8 * back.x + 0.45 * up.x - 0.4 * right.x,
    y: 0.8 * back.y + 0.45 * up.y - 0.4 * right.y,
    z: 0.8 * back.z + 0.45 * up.z - 0.4 * right.z,
  };
  const depths = new Float32Array(width * height).fill(-Infinity);
  const colours = new Uint8Array(4 * width * height);
  let filledPx = 0;
  let seen = new Float32Array(0);
  for (const { material, form } of pieces) {
    if (filledPx >= MOST_FILLED_PX) break;
    const { positions, normals, triangles, points, pointColours } = pieceFrom(form);
    const { colour } = materials[material]!;
    const count = positions.length / 3;
    if (seen.length < 3 * count) seen = new Float32Array(6 * count);
    for (let v = 0; v < count; v++) {
      const at = 3 * v;
      const [x, y, z] = [
        positions[at]! - camera.target.x,
        positions[at + 1]! - camera.target.y,
        positions[at + 2]! - camera.target.z,
      ];
      seen[at] = width / 2 + (right.x * x + right.y * y + right.z * z) / camera.unitsPerPx;
      seen[at + 1] = height / 2 - (up.x * x + up.y * y + up.z * z) / camera.unitsPerPx;
      seen[at + 2] = back.x * x + back.y * y + back.z * z;
    }
    // light comes over the viewer's left shoulder
    const shareOf = (v: number): number => {
      const lit = light.x * normals[3 * v]! + light.y * normals[3 * v + 1]! + light.z * normals[3 * v + 2]!;
      return 0.45 + 0.55 * Math.min(Math.abs(lit), 1);
    };
    const ink = [colour.r, colour.g, colour.b] as const;
    for (let i = 0; i < points.length; i += 3) {
      const [x, y, z] = [
        points[i]! - camera.target.x,
        points[i + 1]! - camera.target.y,
        points[i + 2]! - camera.target.z,
      ];
      const own = pointColours ? ([pointColours[i]!, pointColours[i + 1]!, pointColours[i + 2]!] as const) : ink;
      const across = width / 2 + (right.x * x + right.y * y + right.z * z) / camera.unitsPerPx;
      const down = height / 2 - (up.x * x + up.y * y + up.z * z) / camera.unitsPerPx;
      dot(across, down, back.x * x + back.y * y + back.z * z, width, height, depths, colours, own);
    }
    filledPx += points.length;
    for (let t = 0; t < triangles.length; t += 3)
      filledPx += fill(seen, triangles, t, width, height, depths, colours, colour, shareOf);
  }
  const png = new PNG({ width: PICTURE_WIDTH, height: PICTURE_HEIGHT });
  for (let y = 0; y < PICTURE_HEIGHT; y++)
    for (let x = 0; x < PICTURE_WIDTH; x++) {
      const sum = [0, 0, 0, 0];
      for (let k = 0; k < FINER * FINER; k++) {
        const at = 4 * ((FINER * y + Math.floor(k / FINER)) * width + FINER * x + (k % FINER));
        const share = colours[at + 3]! / 255;
        for (let c = 0; c < 3; c++) sum[c]! += colours[at + c]! * share;
        sum[3]! += share;
      }
      const to = 4 * (y * PICTURE_WIDTH + x);
      for (let c = 0; c < 3; c++) png.data[to + c] = sum[3]! > 0 ? Math.round(sum[c]! / sum[3]!) : 0;
      png.data[to + 3] = Math.round((255 * sum[3]!) / (FINER * FINER));
    }
  return PNG.sync.write(png, { filterType: 0 }); // lines and flat colours gain nothing by a filter
}

/** A point: {@link FINER} px a side, so that it is a px of the picture. */
function dot(
  across: number,
  down: number,
  depth: number,
  width: number,
  height: number,
  depths: Float32Array,
  colours: Uint8Array,
  ink: readonly [number, number, number],
): void {
  for (let k = 0; k < FINER * FINER; k++) {
    const [x, y] = [Math.floor(across - 0.5) + (k % FINER), Math.floor(down - 0.5) + Math.floor(k / FINER)];
    if (!(x >= 0 && y >= 0 && x < width && y < height)) continue;
    const at = y * width + x;
    if (depth <= depths[at]!) continue;
    depths[at] = depth;
    colours.set(ink, 4 * at);
    colours[4 * at + 3] = 255;
  }
}

/**
 * Fills one triangle with the light of its first corner, nearer over farther.
 * @param first of its three corners in the list
 * @param shareOf the light at a vertex: few triangles need it
 * @returns how many px were looked at
 */
function fill(
  seen: Float32Array,
  triangles: Uint32Array,
  first: number,
  width: number,
  height: number,
  depths: Float32Array,
  colours: Uint8Array,
  colour: Material['colour'],
  shareOf: (vertex: number) => number,
): number {
  const [a, b, c] = [triangles[first]!, triangles[first + 1]!, triangles[first + 2]!];
  const [ax, ay, az] = [seen[3 * a]!, seen[3 * a + 1]!, seen[3 * a + 2]!];
  const [bx, by, bz] = [seen[3 * b]!, seen[3 * b + 1]!, seen[3 * b + 2]!];
  const [cx, cy, cz] = [seen[3 * c]!, seen[3 * c + 1]!, seen[3 * c + 2]!];
  const left = Math.max(Math.ceil(Math.min(ax, bx, cx) - 0.5), 0);
  const right = Math.min(Math.floor(Math.max(ax, bx, cx) - 0.5), width - 1);
  const top = Math.max(Math.ceil(Math.min(ay, by, cy) - 0.5), 0);
  const bottom = Math.min(Math.floor(Math.max(ay, by, cy) - 0.5), height - 1);
  // most triangles of a large model lie between the middles of px
  if (left > right || top > bottom) return 0;
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
  if (area === 0) return 0;
  const lit = shareOf(a);
  const [red, green, blue] = [colour.r * lit, colour.g * lit, colour.b * lit];
  // shares of two corners and the depth grow evenly along a row
  const [uStep, vStep] = [(by - cy) / area, (cy - ay) / area];
  const depthStep = uStep * (az - cz) + vStep * (bz - cz);
  for (let y = top; y <= bottom; y++) {
    const [px, py] = [left + 0.5, y + 0.5];
    const u = ((bx - px) * (cy - py) - (cx - px) * (by - py)) / area;
    const v = ((cx - px) * (ay - py) - (ax - px) * (cy - py)) / area;
    // where on the row all three shares are at least 0
    let [begin, end] = [0, right - left];
    for (let corner = 0; corner < 3; corner++) {
      const share = corner === 0 ? u : corner === 1 ? v : 1 - u - v;
      const step = corner === 0 ? uStep : corner === 1 ? vStep : -uStep - vStep;
      if (step > 0) begin = Math.max(begin, Math.ceil(-share / step));
      else if (step < 0) end = Math.min(end, Math.floor(-share / step));
      else if (share < 0) end = -1;
    }
    let depth = u * az + v * bz + (1 - u - v) * cz + begin * depthStep;
    for (let at = y * width + left + begin; at <= y * width + left + end; at++, depth += depthStep) {
      if (depth <= depths[at]!) continue;
      depths[at] = depth;
      colours[4 * at] = red;
      colours[4 * at + 1] = green;
      colours[4 * at + 2] = blue;
      colours[4 * at + 3] = 255;
    }
  }
  return (right - left + 1) * (bottom - top + 1);
}
