import { strokesOf, levelPath } from '@gull-pane/core/marks/strokes';
import type { Mark } from '@gull-pane/core/marks/mark';
import { colourFromHex } from '@gull-pane/core/drawing/colour';
import type { Style } from '@gull-pane/core/drawing/model';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import { measureKindOf } from '@gull-pane/core/measure/measure-kinds';
import { figureText } from '@gull-pane/core/measure/figures';
import { hatchLines } from '@gull-pane/core/planar/rings';
import type { ExportedObject } from '@gull-pane/exporters/exported';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';

/** A mark has its width on paper: that of a sheet whose longer side the drawing fills, mm (ISO 216, A1). */
const SHEET_MM = 841;
/** Height of letters on that sheet, mm (ISO 3098). */
const LETTERS_MM = 3.5;
const HATCH_RAD = Math.PI / 4;
/** Between hatch lines on that sheet, mm. */
const HATCH_MM = 3;
/** Alpha of a hatched area. */
const AREA_ALPHA = 40;

/** Marks as objects of layers of their own. @param firstLayer of the marks' layers @param firstId free numbers of objects */
export function exportedMarks(
  marks: readonly Mark[],
  {
    unit,
    longerSide,
    firstLayer,
    firstId,
  }: {
    readonly unit: DrawingUnit;
    readonly longerSide: number;
    readonly firstLayer: number;
    readonly firstId: number;
  },
): {
  readonly layers: readonly { readonly name: string; readonly colour: string }[];
  readonly objects: readonly ExportedObject[];
} {
  const paper = longerSide / SHEET_MM;
  const layers: { name: string; colour: string }[] = [];
  const objects: ExportedObject[] = [];
  for (const mark of marks) {
    const name = `Marks: ${mark.layer}`;
    let layer = layers.findIndex((one) => one.name === name);
    if (layer < 0) layer = layers.push({ name, colour: mark.colour }) - 1;
    const colour = colourFromHex(mark.colour);
    const width = mark.widthMm * paper;
    const line: Style = {
      kind: 'line',
      layer: firstLayer + layer,
      colour,
      width,
      dashes: mark.line === 'solid' ? [] : mark.line === 'dashed' ? [8 * width, 4 * width] : [width, 3 * width],
    };
    const fill: Style = { ...line, kind: 'fill', width: 0, dashes: [], colour: { ...colour, a: AREA_ALPHA } };
    const add = (object: Partial<ExportedObject>): void =>
      void objects.push({
        id: firstId + objects.length,
        layer: firstLayer + layer,
        path: null,
        text: null,
        line,
        fill: null,
        fillRule: 'evenodd',
        ...object,
      });
    const paths = strokesOf(mark).flatMap((stroke) => levelPath(stroke) ?? []);
    if (mark.kind === 'hatch') {
      const [first] = mark.points;
      const ops = paths.flatMap((path) => Array.from(path.ops));
      const coords = paths.flatMap((path) => Array.from(path.coords));
      add({ path: { ops, coords }, fill });
      const lines = hatchLines(mark.rings ?? [], HATCH_RAD, HATCH_MM * paper);
      const strokes = new PathBuilder();
      for (let i = 0; i < lines.length; i += 4)
        strokes
          .moveTo(first!.x + lines[i]!, first!.y + lines[i + 1]!)
          .lineTo(first!.x + lines[i + 2]!, first!.y + lines[i + 3]!);
      if (!strokes.isEmpty) add({ path: strokes });
    } else for (const path of paths) add({ path });
    if (mark.kind === 'point') {
      const { x, y } = mark.points[0]!;
      const arm = 2 * paper;
      add({
        path: new PathBuilder()
          .moveTo(x - arm, y)
          .lineTo(x + arm, y)
          .moveTo(x, y - arm)
          .lineTo(x, y + arm),
      });
    }
    const words = wordsOf(mark, unit);
    const at = mark.points.at(mark.kind === 'note' ? 1 : -1)!;
    if (words !== '')
      add({
        line: { ...fill, kind: 'text', colour },
        text: {
          text: words,
          x: at.x,
          y: at.y,
          size: LETTERS_MM * paper,
          angleRad: 0,
          anchor: 'start',
          weight: 'normal',
        },
      });
  }
  return { layers, objects };
}

/** What is written beside a mark. */
function wordsOf({ kind, text, measure, points }: Mark, unit: DrawingUnit): string {
  if (kind !== 'measure') return kind === 'plane' ? '' : text.replaceAll('\n', ' ');
  const [first] = measureKindOf(measure ?? '')?.figures(points) ?? [];
  return first ? figureText(first, { unit, shownIn: null, decimals: null, angles: 'deg' }) : '';
}
