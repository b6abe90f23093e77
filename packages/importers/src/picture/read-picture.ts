import type { DrawingSink, ReadResult } from '@gull-pane/core/drawing/model';
import { applyX, applyY, compose, identityAffine, type Affine } from '@gull-pane/core/geometry/affine';
import { transverseMercator } from '@gull-pane/core/geometry/transverse-mercator';
import { geoPlaceOf, type GeoPlace } from './geo-tiff.ts';

/** What is known of a picture's file before it is unpacked. */
export interface PictureFacts {
  /** As it is shown. */
  readonly widthPx: number;
  readonly heightPx: number;
  /** Px an inch of paper; null if the file doesn't say. */
  readonly pxPerInch: number | null;
}

const MM_PER_INCH = 25.4;
/** What CSS takes an inch for. */
const USUAL_PX_PER_INCH = 96;
const MM_PER_METRE = 1000;

/**
 * A raster picture as a drawing of its own: where its file says so, on its map, else at the size of its paper.
 * Coordinates: millimetres, y up; on a map millimetres of its grid.
 * @param bytes the whole file
 */
export function readPicture(
  bytes: Uint8Array,
  { widthPx, heightPx, pxPerInch }: PictureFacts,
  sink: DrawingSink,
): ReadResult & { readonly layerOfNode: readonly number[] } {
  const geo = geoPlaceOf(bytes);
  const own = geo && onMap(geo, widthPx, heightPx);
  const mmPerPx = MM_PER_INCH / (pxPerInch ?? USUAL_PX_PER_INCH);
  const perPx = own?.perPx ?? { a: mmPerPx, b: 0, c: 0, d: -mmPerPx, e: 0, f: heightPx * mmPerPx };
  const place = compose(perPx, { ...identityAffine, a: widthPx, d: heightPx });
  sink.picture({ layer: 0, place, clip: null, opacity: 1, source: { kind: 'file', bytes } });
  const told = own
    ? own.told
    : pxPerInch === null
      ? `the picture doesn’t tell its size on paper: taken as ${USUAL_PX_PER_INCH} px an inch`
      : `the picture lies at the size of its paper, ${Math.round(pxPerInch)} px an inch`;
  return {
    unit: 'mm',
    layers: [{ name: 'Picture' }],
    layerOfNode: [0],
    styles: [],
    warnings: [{ code: 'frame', message: told, count: 1 }],
    ...(own?.meridianDeg === undefined ? {} : { meridianDeg: own.meridianDeg }),
  };
}

interface OnMap {
  readonly perPx: Affine;
  readonly told: string;
  readonly meridianDeg?: number;
}

function onMap({ toMap, metresPerUnit }: GeoPlace, widthPx: number, heightPx: number): OnMap {
  if (metresPerUnit !== null) {
    const k = metresPerUnit * MM_PER_METRE;
    const { a, b, c, d, e, f } = toMap;
    return {
      perPx: { a: k * a, b: k * b, c: k * c, d: k * d, e: k * e, f: k * f },
      told: 'the picture lies on its map, in millimetres of its grid',
    };
  }
  // degrees become a plane that touches the globe at the picture's middle; three corners decide
  const meridianDeg = applyX(toMap, widthPx / 2, heightPx / 2);

  const corner = (x: number, y: number): readonly [number, number] => {
    const { x: east, y: north } = transverseMercator(applyX(toMap, x, y), applyY(toMap, x, y), meridianDeg);
    return [east * MM_PER_METRE, north * MM_PER_METRE];
  };
  const [[e, f], [x1, y1], [x2, y2]] = [corner(0, 0), corner(widthPx, 0), corner(0, heightPx)];
  const perPx = {
    a: (x1 - e) / widthPx,
    b: (y1 - f) / widthPx,
    c: (x2 - e) / heightPx,
    d: (y2 - f) / heightPx,
    e,
    f,
  };
  const [x, y] = corner(widthPx, heightPx);
  const amiss = Math.hypot(applyX(perPx, widthPx, heightPx) - x, applyY(perPx, widthPx, heightPx) - y);
  return {
    perPx,
    meridianDeg,
    told: `the picture lies on its map: degrees became millimetres on a plane, true to ${Math.ceil(amiss / MM_PER_METRE)} m at its corners`,
  };
}
