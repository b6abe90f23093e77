import { bearingOf } from '@gull-pane/core/camera/twist';
import { coveringSheets, gridOf, type Covering } from '@gull-pane/core/sheets/covering';
import type { PaperSize } from '@gull-pane/core/sheets/paper';
import { scaleWithRoom, viewAreaOf, type FramedView, type PaperRect, type Sheet } from '@gull-pane/core/sheets/sheet';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import { exportKinds } from '@gull-pane/protocol/export';
import {
  MOST_SHEETS,
  type FrameShowsDto,
  type PaperSheetDto,
  type StripFieldsDto,
} from '@gull-pane/protocol/sheet-sets';
import { cameraFromDto } from '../wire/camera-dto';

/** What is needed of a drawing to lay it out. */
export interface LaidOutDrawing {
  readonly drawing: DrawingDto;
  readonly layers: readonly LayerDto[];
}

/** How a drawing goes to paper at first: without the layers that its file has switched off. */
export const firstShows = (layers: readonly LayerDto[]): FrameShowsDto => ({
  kindsOff: [],
  hiddenLayers: layers.filter(({ isOff }) => isOff).map(({ name }) => name),
  hiddenMarkLayers: [],
  hiddenObjects: '',
});

export const firstFields = ({ name }: DrawingDto, dateText: string): StripFieldsDto => ({
  project: '',
  title: name,
  number: '',
  revision: '',
  author: '',
  date: dateText,
});

/** A sheet whose frames all show the same things. */
const showing = (sheet: Sheet, shows: FrameShowsDto): PaperSheetDto => ({
  name: sheet.name,
  paper: sheet.paper,
  frames: sheet.frames.map((frame) => ({ ...frame, shows })),
  matchLines: sheet.matchLines.map(({ from, to, sheet: other }) => ({ from: [...from], to: [...to], sheet: other })),
});

/** A view that fills a sheet. */
export function sheetOf(name: string, paper: PaperSize, view: FramedView, shows: FrameShowsDto): PaperSheetDto {
  return showing({ name, paper, frames: [{ ...viewAreaOf(paper), view }], matchLines: [] }, shows);
}

/** All of a drawing at the first standard scale at which it has room. */
export function viewOfAll(
  { drawing }: LaidOutDrawing,
  paper: PaperSize,
  room: PaperRect = viewAreaOf(paper),
): FramedView {
  const { min, max } = boxOf(drawing);
  const denominator = scaleWithRoom(max.x - min.x, max.y - min.y, room, drawing.unit);
  return { x: (min.x + max.x) / 2, y: (min.y + max.y) / 2, bearingRad: 0, denominator };
}

/** What a view card shows, at the first standard scale at which all of it has room. */
export function sheetOfCard(card: CardDto, { drawing }: LaidOutDrawing, paper: PaperSize): PaperSheetDto {
  const camera = cameraFromDto(card.camera);
  const [width, height] = [card.widthPx * camera.unitsPerPx, card.heightPx * camera.unitsPerPx];
  const denominator = scaleWithRoom(width, height, viewAreaOf(paper), drawing.unit);
  const { hiddenLayers, kindsOff = [], hiddenObjects, hiddenMarkLayers = [], revision } = card.shows;
  const shows = {
    kindsOff: exportKinds.filter((kind) => kindsOff.includes(kind)),
    hiddenLayers,
    hiddenMarkLayers,
    // numbers of another import are another's
    hiddenObjects: revision === drawing.revision ? hiddenObjects : '',
  };
  const view = { x: camera.target.x, y: camera.target.y, bearingRad: bearingOf(camera), denominator };
  return sheetOf(card.name, paper, view, shows);
}

/** How a drawing is covered. */
export type CoveringWish = Pick<Covering, 'paper' | 'denominator' | 'overlapMm'>;

const coveringOf = ({ drawing }: LaidOutDrawing, wish: CoveringWish): Covering => {
  const { min, max } = boxOf(drawing);
  return { ...wish, box: { minX: min.x, minY: min.y, maxX: max.x, maxY: max.y }, bearingRad: 0 };
};

/** How many sheets that takes, side by side and one below the other. */
export const coveringGrid = (of: LaidOutDrawing, wish: CoveringWish): [number, number] =>
  gridOf(coveringOf(of, wish), of.drawing.unit);

/** @returns null if that takes more sheets than a set may have */
export function sheetsCovering(of: LaidOutDrawing, wish: CoveringWish): PaperSheetDto[] | null {
  const [columns, rows] = coveringGrid(of, wish);
  if (columns * rows > MOST_SHEETS) return null;
  const shows = firstShows(of.layers);
  const name = (row: number, column: number): string => `Part ${letterOf(row)}${column}`;
  return coveringSheets(coveringOf(of, wish), of.drawing.unit, name).map((sheet) => showing(sheet, shows));
}

/** A, B … Z, AA … */
const letterOf = (row: number): string =>
  row <= 26 ? String.fromCharCode(64 + row) : letterOf(Math.floor((row - 1) / 26)) + letterOf(((row - 1) % 26) + 1);

const boxOf = ({ extents }: DrawingDto): NonNullable<DrawingDto['extents']> =>
  extents ?? { min: { x: 0, y: 0, z: 0 }, max: { x: 0, y: 0, z: 0 } };
