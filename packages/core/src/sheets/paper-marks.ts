import { colourFromHex } from '../drawing/colour.ts';
import type { DrawingUnit } from '../drawing/units.ts';
import type { Vec3 } from '../geometry/vec.ts';
import type { Mark } from '../marks/mark.ts';
import { placesOf, strokesOf } from '../marks/strokes.ts';
import { figureText } from '../measure/figures.ts';
import { measureKindOf } from '../measure/measure-kinds.ts';
import { fromPlane } from '../plane/work-plane.ts';
import { hatchLines } from '../planar/rings.ts';
import { projectionOf, type FrameProjection } from './frame-camera.ts';
import { unitsPerPaperMm, type SheetFrame } from './sheet.ts';
import { THIN_MM, type PaperPoint, type SheetPart } from './sheet-part.ts';

/** Curves of marks keep to their course within so much, mm on paper. */
const CHORD_MM = 0.01;
/** Height of letters (ISO 3098), half the arm of a cross, and the gap between hatch lines; mm. */
const [LETTERS_MM, ARM_MM, HATCH_MM] = [3.5, 2, 3] as const;
const AREA_OPACITY = 0.16;

/** Marks as they lie on a view of a plan or a model: their widths are mm on paper. */
export function paperMarks(marks: readonly Mark[], frame: SheetFrame, unit: DrawingUnit): readonly SheetPart[] {
  const projection = projectionOf(frame, unit);
  const units = unitsPerPaperMm(frame.view.denominator, unit);
  return marks.flatMap((mark) => partsOf(mark, unit, units, projection));
}

function partsOf(mark: Mark, unit: DrawingUnit, units: number, { toPaper, eyeDistance }: FrameProjection): SheetPart[] {
  // in parallel views nearness is a length, which may be less than nothing
  const isParallel = eyeDistance === Infinity;
  const { r, g, b } = colourFromHex(mark.colour);
  const own = { layer: `Marks: ${mark.layer}`, ink: { r, g, b } } as const;
  const width = mark.widthMm;
  const dashesMm = mark.line === 'solid' ? [] : mark.line === 'dashed' ? [8 * width, 4 * width] : [width, 3 * width];
  const parts: SheetPart[] = [];
  const seen = (places: readonly Vec3[]): readonly PaperPoint[] | null => {
    const points = places.map(toPaper);
    // what lies behind the eye isn't seen
    return points.every(([x, y, nearness]) => Number.isFinite(x + y) && (isParallel || nearness > 0))
      ? points.map(([x, y]) => [x, y])
      : null;
  };
  const line = (points: readonly PaperPoint[], widthMm: number, dashes: readonly number[] = []): void =>
    void parts.push({ ...own, kind: 'line', points, widthMm, dashesMm: dashes, isClosed: false });
  const runs = strokesOf(mark).flatMap((stroke) =>
    placesOf(stroke, CHORD_MM * units).flatMap((run) => {
      const points = seen(run);
      return points ? [points] : [];
    }),
  );
  if (mark.kind === 'hatch') {
    if (runs.length > 0) parts.push({ ...own, opacity: AREA_OPACITY, kind: 'area', rings: runs });
    const plane = { origin: mark.points[0]!, x: mark.x, y: mark.y };
    const lines = hatchLines(mark.rings ?? [], Math.PI / 4, HATCH_MM * units);
    for (let i = 0; i + 3 < lines.length; i += 4) {
      const ends = seen([0, 2].map((k) => fromPlane(plane, { x: lines[i + k]!, y: lines[i + k + 1]!, z: 0 })));
      if (ends) line(ends, THIN_MM);
    }
  }
  for (const run of runs) line(run, width, dashesMm);
  if (mark.kind === 'point') {
    const [at] = seen([mark.points[0]!]) ?? [];
    if (at) {
      const [x, y] = at;
      line(
        [
          [x - ARM_MM, y],
          [x + ARM_MM, y],
        ],
        width,
      );
      line(
        [
          [x, y - ARM_MM],
          [x, y + ARM_MM],
        ],
        width,
      );
    }
  }
  const place = mark.points.at(mark.kind === 'note' ? 1 : -1);
  const [at] = place ? (seen([place]) ?? []) : [];
  if (at)
    wordsOf(mark, unit).forEach((text, k) =>
      parts.push({
        ...own,
        kind: 'text',
        text,
        at: [at[0] + 1, at[1] - 1 + 1.4 * LETTERS_MM * k],
        sizeMm: LETTERS_MM,
        weight: 'normal',
        isUpright: false,
        leadsTo: null,
      }),
    );
  return parts;
}

/** What is written beside a mark, line by line. */
function wordsOf({ kind, text, measure, points }: Mark, unit: DrawingUnit): readonly string[] {
  if (kind === 'plane') return [];
  if (kind !== 'measure') return text === '' ? [] : text.split('\n');
  const [first] = measureKindOf(measure ?? '')?.figures(points) ?? [];
  return first ? [figureText(first, { unit, shownIn: null, decimals: null, angles: 'deg' })] : [];
}
