import { identityAffine, type Affine } from '@gull-pane/core/geometry/affine';
import { NumberScanner } from './number-scanner.ts';

export interface ViewBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** @returns null if the attribute is absent, malformed or has no area */
export function parseViewBox(text: string | undefined): ViewBox | null {
  if (text === undefined) return null;
  const [x, y, width, height, ...more] = new NumberScanner(text).all();
  if (height === undefined || more.length > 0 || !(width! > 0 && height > 0)) return null;
  return { x: x!, y: y!, width: width!, height };
}

/**
 * The map of a viewBox into a viewport of this size.
 * Source: SVG 2, 8.2 "Computing the equivalent transform of an SVG viewport".
 */
export function viewBoxTransform(box: ViewBox, width: number, height: number, preserve: string | undefined): Affine {
  const [align = 'xMidYMid', fit = 'meet'] = (preserve ?? 'xMidYMid meet').trim().split(/\s+/);
  let a = width / box.width;
  let d = height / box.height;
  if (align !== 'none') a = d = fit === 'slice' ? Math.max(a, d) : Math.min(a, d);
  const share = (where: string): number =>
    align.includes(`${where}Mid`) ? 0.5 : align.includes(`${where}Max`) ? 1 : 0;
  const spareX = align === 'none' ? 0 : (width - box.width * a) * share('x');
  const spareY = align === 'none' ? 0 : (height - box.height * d) * share('Y');
  return { ...identityAffine, a, d, e: spareX - box.x * a, f: spareY - box.y * d };
}
