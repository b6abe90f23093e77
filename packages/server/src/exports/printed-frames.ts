import type { Mark } from '@gull-pane/core/marks/mark';
import { boxOfFrame } from '@gull-pane/core/sheets/sheet';
import type { ExportedDrawing } from '@gull-pane/exporters/exported';
import type { PrintedSet } from '@gull-pane/exporters/pdf/printed-set';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { PrintDto, SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import { chosenPart, flatObjects, stylesIn } from './exported-part.ts';

/** Sheets with what their frames show, read frame by frame. */
export function printedSet(
  folder: string,
  drawing: DrawingDto,
  layers: readonly LayerDto[],
  { fields, sheets }: PrintDto,
  marks: readonly Mark[],
): PrintedSet {
  return {
    unit: drawing.unit,
    fields,
    sheets,
    drawingIn: (sheet, frame) => drawingIn(folder, drawing, layers, sheets[sheet]!.frames[frame]!, marks),
  };
}

function drawingIn(
  folder: string,
  drawing: DrawingDto,
  layers: readonly LayerDto[],
  frame: SheetFrameDto,
  marks: readonly Mark[],
): ExportedDrawing {
  const { kindsOff, hiddenLayers, hiddenMarkLayers, hiddenObjects } = frame.shows;
  const [hidden, hiddenMarks] = [new Set(hiddenLayers), new Set(hiddenMarkLayers)];
  const box = grown(boxOfFrame(frame, drawing.unit), MOST_MITRE * widestLine(folder));
  const chosen = chosenPart(
    { box, kindsOff, hiddenObjects, hiddenLayers: layers.filter(({ name }) => hidden.has(name)).map(({ id }) => id) },
    drawing.counts.objects,
  );
  const shown = marks.filter(({ layer }) => !hiddenMarks.has(layer));
  const longerSide = Math.max(box.maxX - box.minX, box.maxY - box.minY);
  return {
    name: drawing.name,
    unit: drawing.unit,
    box,
    ...flatObjects(folder, drawing, layers, chosen, shown, longerSide),
  };
}

/** A mitred corner reaches at most this many line widths from its vertex: half of the mitre limit. */
const MOST_MITRE = 2;

const widestLine = (folder: string): number => stylesIn(folder).reduce((most, { width }) => Math.max(most, width), 0);

/** A line outside a frame may be wide enough to reach into it. */
const grown = (
  { minX, minY, maxX, maxY }: ReturnType<typeof boxOfFrame>,
  by: number,
): ReturnType<typeof boxOfFrame> => ({
  minX: minX - by,
  minY: minY - by,
  maxX: maxX + by,
  maxY: maxY + by,
});
