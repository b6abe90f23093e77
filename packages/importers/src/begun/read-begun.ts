import { drawingUnits, type DrawingUnit } from '@gull-pane/core/drawing/units';
import { ReadError } from '../read-error.ts';

/** What a drawing is that is begun here: a file of its own, so that it can be sent on like any other. */
export interface BegunDrawing {
  readonly kind: 'flat' | 'solid';
  readonly unit: DrawingUnit;
  /** What lies so near to each other is one, drawing units. */
  readonly tolerance: number;
  /** Between the lines of the grid that points snap to, drawing units; 0 for none. */
  readonly gridStep: number;
}

const MARK = 'gullPaneDrawing';
const VERSION = 1;
/** Letters of a file that may be one; others are longer. */
export const MOST_BEGUN_BYTES = 2048;

/** The source file of a drawing that begins empty. */
export const writeBegun = (drawing: BegunDrawing): string =>
  `${JSON.stringify({ [MARK]: VERSION, ...drawing }, null, 2)}\n`;

/**
 * @param text of the file
 * @returns null if it is something else
 * @throws ReadError if it is one, but a newer or a damaged one
 */
export function readBegun(text: string): BegunDrawing | null {
  if (!text.trimStart().startsWith('{') || !text.includes(`"${MARK}"`)) return null;
  let told: Partial<Record<keyof BegunDrawing | typeof MARK, unknown>>;
  try {
    told = JSON.parse(text) as typeof told;
  } catch {
    return null;
  }
  const { [MARK]: version, kind, unit, tolerance, gridStep } = told;
  if (version !== VERSION)
    throw new ReadError('damaged-file', `The drawing was begun by version ${String(version)}; ${VERSION} can be read.`);
  const isNumber = (value: unknown): value is number =>
    typeof value === 'number' && Number.isFinite(value) && value >= 0;
  const isUnit = (value: unknown): value is DrawingUnit => drawingUnits.some((one) => one === value);
  if ((kind !== 'flat' && kind !== 'solid') || !isUnit(unit) || !isNumber(tolerance) || !isNumber(gridStep))
    throw new ReadError('damaged-file', 'The drawing needs a kind, a unit, a tolerance and a grid.');
  return { kind, unit, tolerance, gridStep };
}
