import { PathBuilder, type ArcShape } from '@gull-pane/core/drawing/path';
import { NumberScanner } from './number-scanner.ts';
import { parsePathData } from './path-data.ts';

/** Reads a length attribute in user units; `axis` says what % refers to. */
export type LengthOf = (name: string, axis: 'x' | 'y' | 'diagonal') => number | undefined;

export interface ShapeResult {
  readonly path: PathBuilder;
  /** What could not be understood, if anything. */
  readonly error?: string;
}

/** Elements that draw, by their local name. */
export const shapeNames: ReadonlySet<string> = new Set([
  'path',
  'rect',
  'circle',
  'ellipse',
  'line',
  'polyline',
  'polygon',
]);

/** The exact path of a basic shape (SVG 2, chapter 10) or of path data, in user units, y down. */
export function shapePath(name: string, attributes: Readonly<Record<string, string>>, length: LengthOf): ShapeResult {
  switch (name) {
    case 'path': {
      const { path, errorAt } = parsePathData(attributes.d ?? '');
      return errorAt === undefined ? { path } : { path, error: `path data is wrong at its character ${errorAt + 1}` };
    }
    case 'rect':
      return { path: rectangle(length) };
    case 'circle': {
      const r = length('r', 'diagonal') ?? 0;
      return { path: ellipse(length('cx', 'x') ?? 0, length('cy', 'y') ?? 0, r, r) };
    }
    case 'ellipse': {
      const rx = length('rx', 'x');
      const ry = length('ry', 'y');
      return { path: ellipse(length('cx', 'x') ?? 0, length('cy', 'y') ?? 0, rx ?? ry ?? 0, ry ?? rx ?? 0) };
    }
    case 'line': {
      const [x1 = 0, y1 = 0] = [length('x1', 'x'), length('y1', 'y')];
      const [x2 = 0, y2 = 0] = [length('x2', 'x'), length('y2', 'y')];
      return { path: new PathBuilder().moveTo(x1, y1).lineTo(x2, y2) };
    }
    default:
      return polyline(attributes.points ?? '', name === 'polygon');
  }
}

function polyline(points: string, isClosed: boolean): ShapeResult {
  const scan = new NumberScanner(points);
  const numbers = scan.all();
  const path = new PathBuilder();
  for (let i = 0; i + 1 < numbers.length; i += 2) {
    if (i === 0) path.moveTo(numbers[0]!, numbers[1]!);
    else path.lineTo(numbers[i]!, numbers[i + 1]!);
  }
  if (isClosed && !path.isEmpty) path.close();
  const isWhole = scan.isAtEnd && numbers.length % 2 === 0;
  return isWhole ? { path } : { path, error: 'the list of points breaks off or has an odd count' };
}

function ellipse(cx: number, cy: number, rx: number, ry: number): PathBuilder {
  const path = new PathBuilder();
  if (!(rx > 0 && ry > 0)) return path;
  const whole = { ...axes(cx, cy, rx, ry), startRad: 0, sweepRad: 2 * Math.PI };
  return path
    .moveTo(cx + rx, cy)
    .arcTo(whole, cx + rx, cy)
    .close();
}

function rectangle(length: LengthOf): PathBuilder {
  const path = new PathBuilder();
  const x = length('x', 'x') ?? 0;
  const y = length('y', 'y') ?? 0;
  const width = length('width', 'x') ?? 0;
  const height = length('height', 'y') ?? 0;
  if (!(width > 0 && height > 0)) return path;
  const givenX = length('rx', 'x');
  const givenY = length('ry', 'y');
  const rx = Math.min(Math.max(givenX ?? givenY ?? 0, 0), width / 2);
  const ry = Math.min(Math.max(givenY ?? givenX ?? 0, 0), height / 2);
  const right = x + width;
  const bottom = y + height;
  if (rx === 0 || ry === 0) return path.moveTo(x, y).lineTo(right, y).lineTo(right, bottom).lineTo(x, bottom).close();
  const corner = (cx: number, cy: number, quarter: number): ArcShape => ({
    ...axes(cx, cy, rx, ry),
    startRad: (quarter * Math.PI) / 2,
    sweepRad: Math.PI / 2,
  });
  path.moveTo(x + rx, y);
  if (right - rx > x + rx) path.lineTo(right - rx, y);
  path.arcTo(corner(right - rx, y + ry, 3), right, y + ry);
  if (bottom - ry > y + ry) path.lineTo(right, bottom - ry);
  path.arcTo(corner(right - rx, bottom - ry, 0), right - rx, bottom);
  if (right - rx > x + rx) path.lineTo(x + rx, bottom);
  path.arcTo(corner(x + rx, bottom - ry, 1), x, bottom - ry);
  if (bottom - ry > y + ry) path.lineTo(x, y + ry);
  return path.arcTo(corner(x + rx, y + ry, 2), x + rx, y).close();
}

const axes = (cx: number, cy: number, rx: number, ry: number): Omit<ArcShape, 'startRad' | 'sweepRad'> => ({
  cx,
  cy,
  ux: rx,
  uy: 0,
  vx: 0,
  vy: ry,
});
