import { boxOfFrame, placementOf, unitsPerPaperMm, type PaperRect } from '@gull-pane/core/sheets/sheet';
import type { SheetPart } from '@gull-pane/core/sheets/sheet-part';
import type { FrameContent } from '@gull-pane/exporters/sheets/printed-set';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import { chosenPart, flatObjects, stylesIn } from '../exports/exported-part.ts';
import type { Box, ObjectBoxes } from '../exports/object-boxes.ts';
import type { PrintablePictures } from './printable-pictures.ts';

/** A plan that goes to paper. */
export interface PrintedPlan {
  /** Of the content. */
  readonly folder: string;
  readonly drawing: DrawingDto;
  readonly layers: readonly LayerDto[];
  readonly pictures: PrintablePictures;
  /** Where all objects are; absent where they are read only once. */
  readonly boxes: ObjectBoxes | null;
}

/** A mitred corner reaches at most this many line widths from its vertex: half of the mitre limit. */
const MOST_MITRE = 2;

/** What a frame shows of a plan: its exact objects. */
export function planFrame(
  { folder, drawing, layers, pictures, boxes }: PrintedPlan,
  frame: SheetFrameDto,
  onTop: readonly SheetPart[],
): FrameContent {
  const { kindsOff, hiddenLayers, hiddenObjects } = frame.shows;
  const hidden = new Set(hiddenLayers);
  const hiddenIds = layers.filter(({ name }) => hidden.has(name)).map(({ id }) => id);
  // a line outside a frame may be wide enough to reach into it
  const reach = MOST_MITRE * stylesIn(folder).reduce((most, { width }) => Math.max(most, width), 0);
  const { toPaper } = placementOf(frame, drawing.unit);
  return {
    layers,
    toPaper,
    mmPerUnit: 1 / unitsPerPaperMm(frame.view.denominator, drawing.unit),
    turnRad: frame.view.bearingRad,
    onTop,
    hrefs: () => [...pictures.all()],
    *objects(within) {
      const part = common(frame, within);
      if (!part) return;
      const box = grown(boxOfFrame({ ...part, view: viewIn(frame, part, drawing.unit) }, drawing.unit), reach);
      const chosen = chosenPart({ box, kindsOff, hiddenObjects, hiddenLayers: hiddenIds }, drawing.counts.objects);
      const { objects } = flatObjects(folder, drawing, layers, { ...chosen, ...(boxes ? { boxes } : {}) }, [], 1);
      for (const object of objects())
        yield object.picture
          ? { ...object, picture: { ...object.picture, href: () => pictures.href(object.id) } }
          : object;
    },
  };
}

/** What two rectangles have in common. */
function common(a: PaperRect, b: PaperRect): PaperRect | null {
  const [leftMm, topMm] = [Math.max(a.leftMm, b.leftMm), Math.max(a.topMm, b.topMm)];
  const widthMm = Math.min(a.leftMm + a.widthMm, b.leftMm + b.widthMm) - leftMm;
  const heightMm = Math.min(a.topMm + a.heightMm, b.topMm + b.heightMm) - topMm;
  return widthMm > 0 && heightMm > 0 ? { leftMm, topMm, widthMm, heightMm } : null;
}

/** The view of a part of a frame. */
function viewIn(frame: SheetFrameDto, part: PaperRect, unit: DrawingDto['unit']): SheetFrameDto['view'] {
  const { toDrawing } = placementOf(frame, unit);
  const [x, y] = toDrawing(part.leftMm + part.widthMm / 2, part.topMm + part.heightMm / 2);
  return { ...frame.view, x, y };
}

const grown = ({ minX, minY, maxX, maxY }: Box, by: number): Box => ({
  minX: minX - by,
  minY: minY - by,
  maxX: maxX + by,
  maxY: maxY + by,
});
