import { standardScales } from '@gull-pane/core/camera/scale';
import { cameraAxes, eyeDistance } from '@gull-pane/core/camera/camera';
import { HOME_DIRECTION, standardDirections } from '@gull-pane/core/camera/directions';
import { orientationOf, type Direction } from '@gull-pane/core/camera/orbit';
import { bearingOf, orientationAtBearing } from '@gull-pane/core/camera/twist';
import { multiply } from '@gull-pane/core/geometry/quaternion';
import { along3, dot3, sub3, type Vec3 } from '@gull-pane/core/geometry/vec';
import { projectionOf } from '@gull-pane/core/sheets/frame-camera';
import { coveringSheets, gridOf, type Covering } from '@gull-pane/core/sheets/covering';
import type { PaperSize } from '@gull-pane/core/sheets/paper';
import {
  scaleWithRoom,
  viewAreaOf,
  type BlockKind,
  type FramedView,
  type PaperRect,
  type Sheet,
  type SolidSight,
} from '@gull-pane/core/sheets/sheet';
import { solidLooks, type SolidLook } from '@gull-pane/core/solid/solid-looks';
import { MOST_NAME, type CardDto } from '@gull-pane/protocol/cards';
import type { ComparisonDto } from '@gull-pane/protocol/comparison';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import { exportKinds } from '@gull-pane/protocol/export';
import {
  MOST_SHEETS,
  type FrameShowsDto,
  type PaperSheetDto,
  type SheetBlockDto,
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

/** The direction that models are first looked at from. */
export const firstSight = (direction: Direction = HOME_DIRECTION): SolidSight => ({
  z: 0,
  orientation: orientationOf(direction),
});

/**
 * All of a drawing at the first standard scale at which it has room.
 * @param sight how a model is looked at; parallel, whatever it says of the eye
 */
export function viewOfAll(
  { drawing, layers }: LaidOutDrawing,
  paper: PaperSize,
  room: PaperRect = viewAreaOf(paper),
  sight: SolidSight | undefined = drawing.kind === 'solid' ? firstSight() : undefined,
  bearingRad = 0,
): FramedView {
  const { min, max } = boxOf(drawing);
  if (!sight) {
    const denominator = scaleWithRoom(max.x - min.x, max.y - min.y, room, drawing.unit);
    return { x: (min.x + max.x) / 2, y: (min.y + max.y) / 2, bearingRad: 0, denominator };
  }
  const { orientation } = sight;
  const axes = cameraAxes({
    orientation: multiply(orientation, orientationAtBearing(bearingRad)),
  } as Parameters<typeof cameraAxes>[0]);
  const from = { x: min.x, y: min.y, z: min.z };
  const points = layers.flatMap(({ support }) => triples(support));
  const corners = points.length > 0 ? points : [from, { x: max.x, y: max.y, z: max.z }];
  const reach = (axis: Vec3): readonly [number, number] => {
    const heights = corners.map((corner) => dot3(sub3(corner, from), axis));
    return [heights.reduce((a, b) => Math.min(a, b)), heights.reduce((a, b) => Math.max(a, b))];
  };
  const [[left, right], [low, high], [far, near]] = [reach(axes.right), reach(axes.up), reach(axes.back)];
  const middle = [
    [axes.right, (left + right) / 2],
    [axes.up, (low + high) / 2],
    [axes.back, (far + near) / 2],
  ] as const;
  const { x, y, z } = middle.reduce((sum, [axis, way]) => along3(sum, axis, way), from);
  const denominator = scaleWithRoom(right - left, high - low, room, drawing.unit);
  return { x, y, bearingRad, denominator, solid: { z, orientation } };
}

function triples(numbers: readonly number[]): Vec3[] {
  return Array.from({ length: Math.floor(numbers.length / 3) }, (_, k) => ({
    x: numbers[3 * k]!,
    y: numbers[3 * k + 1]!,
    z: numbers[3 * k + 2]!,
  }));
}

/** What a view card shows, at the first standard scale at which all of it has room. */
export function sheetOfCard(card: CardDto, { drawing }: LaidOutDrawing, paper: PaperSize): PaperSheetDto {
  const camera = cameraFromDto(card.camera);
  const viewport = { widthPx: card.widthPx, heightPx: card.heightPx };
  const [width, height] = [card.widthPx * camera.unitsPerPx, card.heightPx * camera.unitsPerPx];
  const denominator = scaleWithRoom(width, height, viewAreaOf(paper), drawing.unit);
  const { hiddenLayers, kindsOff = [], hiddenObjects, hiddenMarkLayers = [], revision, marksOff = false } = card.shows;
  const isSolid = drawing.kind === 'solid';
  const shows = {
    kindsOff: exportKinds.filter((kind) => kindsOff.includes(kind)),
    hiddenLayers,
    hiddenMarkLayers,
    // numbers of another import are another's
    hiddenObjects: revision === drawing.revision ? hiddenObjects : '',
    ...(marksOff ? { marksOff } : {}),
    ...(isSolid ? { look: lookOf(card.shows.look), clips: card.shows.clips } : {}),
  };
  const { x, y, z } = camera.target;
  if (!isSolid) return sheetOf(card.name, paper, { x, y, bearingRad: bearingOf(camera), denominator }, shows);
  const eye = camera.projection === 'perspective' ? { eyeDistance: eyeDistance(camera, viewport) } : {};
  const solid = { z, orientation: camera.orientation, ...eye };
  return sheetOf(card.name, paper, { x, y, bearingRad: 0, denominator, solid }, shows);
}

const lookOf = (look: string | undefined): SolidLook => solidLooks.find((one) => one === look) ?? 'hidden-line';

/** Directions of the views of a model that stand on one sheet. */
const FOUR = ['From south', 'From east', 'Plan', 'From south-east, above'] as const;
/** Between views that stand side by side, mm. */
const GAP_MM = 5;

/** A model from the south, from the east and from above at one scale, with a picture of it at an angle. */
export function fourViews(of: LaidOutDrawing, paper: PaperSize): PaperSheetDto {
  const area = viewAreaOf(paper);
  const [widthMm, heightMm] = [(area.widthMm - GAP_MM) / 2, (area.heightMm - GAP_MM) / 2];
  const shows = firstShows(of.layers);
  const frames = FOUR.map((name, k) => {
    const rect = {
      leftMm: area.leftMm + (k % 2) * (widthMm + GAP_MM),
      topMm: area.topMm + (k > 1 ? heightMm + GAP_MM : 0),
      widthMm,
      heightMm,
    };
    const direction = standardDirections.find((one) => one.name === name)!;
    return { ...rect, view: viewOfAll(of, paper, rect, firstSight(direction)), shows, title: name };
  });
  const denominator = frames.reduce((most, { view }) => Math.max(most, view.denominator), 0);
  return {
    name: of.drawing.name,
    paper,
    frames: frames.map((frame) => ({ ...frame, view: { ...frame.view, denominator } })),
    matchLines: [],
  };
}

/** So much of a sheet a place that changed takes at most. */
const CHANGE_SHARE = 0.7;
/** Places that changed are shown so many times as large as the whole drawing at most: with something round them. */
const MOST_LARGER = 20;

/** A sheet for each place where changes lie, with what was and what is on top; what lies on one sheet anyway is on it. */
export function sheetsOfChanges(
  of: LaidOutDrawing,
  { from, changes, clusters, axes }: ComparisonDto,
  paper: PaperSize,
): PaperSheetDto[] {
  const { drawing, layers } = of;
  const area = viewAreaOf(paper);
  const room = { ...area, widthMm: CHANGE_SHARE * area.widthMm, heightMm: CHANGE_SHARE * area.heightMm };
  const least = viewOfAll(of, paper).denominator / MOST_LARGER;
  const places: { readonly view: FramedView; readonly changes: number[] }[] = [];
  // the largest first: smaller ones may lie on their sheets
  const order = clusters
    .map(({ box: { min, max }, changes: own }) => ({ view: viewOfBox(drawing, min, max, room, axes), min, max, own }))
    .sort((a, b) => b.view.denominator - a.view.denominator);
  for (const { view, min, max, own } of order) {
    const larger = Math.max(view.denominator, scaleFrom(least));
    const known = places.find((place) => isWithin(min, max, { ...area, view: place.view }, drawing.unit));
    if (known) known.changes.push(...own);
    else if (places.length < MOST_SHEETS) places.push({ view: { ...view, denominator: larger }, changes: [...own] });
  }
  const shows = { ...firstShows(layers), changesSince: from };
  return places.map(({ view, changes: own }, k) => {
    const first = changes[own[0]!];
    const more = own.length > 1 ? ` and ${own.length - 1} more` : '';
    const name = `Change ${k + 1}: ${first?.label ?? first?.layer ?? ''}`.slice(0, MOST_NAME - more.length) + more;
    return sheetOf(name, paper, view, shows);
  });
}

/** The standard scale at or after a number. */
const scaleFrom = (least: number): number => standardScales.find((scale) => scale >= least) ?? least;

/** Whether a box lies within what a frame shows. */
function isWithin(
  min: readonly number[],
  max: readonly number[],
  frame: PaperRect & { readonly view: FramedView },
  unit: DrawingDto['unit'],
): boolean {
  const { toPaper } = projectionOf(frame, unit);
  return cornersOfBox(min, max).every((corner) => {
    const [x, y] = toPaper(corner);
    const [right, bottom] = [frame.leftMm + frame.widthMm, frame.topMm + frame.heightMm];
    return x >= frame.leftMm && x <= right && y >= frame.topMm && y <= bottom;
  });
}

const cornersOfBox = (min: readonly number[], max: readonly number[]): Vec3[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map((bits) => {
    const [x, y, z] = [0, 1, 2].map((axis) => ((bits >> axis) & 1 ? max[axis] : min[axis]) ?? 0);
    return { x: x!, y: y!, z: z! };
  });

function viewOfBox(
  drawing: DrawingDto,
  min: readonly number[],
  max: readonly number[],
  room: PaperRect,
  axes: 2 | 3,
): FramedView {
  if (axes === 3) {
    const support = cornersOfBox(min, max).flatMap(({ x, y, z }) => [x, y, z]);
    return viewOfAll({ drawing, layers: [{ support } as unknown as LayerDto] }, room, room);
  }
  const denominator = scaleWithRoom(max[0]! - min[0]!, max[1]! - min[1]!, room, drawing.unit);
  return { x: (min[0]! + max[0]!) / 2, y: (min[1]! + max[1]!) / 2, bearingRad: 0, denominator };
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
  const sheets = coveringSheets(coveringOf(of, wish), of.drawing.unit, name).map((sheet) => showing(sheet, shows));
  if (sheets.length === 1) return sheets;
  return sheets.map((sheet) => ({ ...sheet, blocks: [firstBlock('key-plan', sheet.paper)] }));
}

/** Corners of a sheet where blocks stand at first, so that they don't cover each other. */
const firstCorners: Readonly<Record<BlockKind, 'upper right' | 'upper left' | 'lower right'>> = {
  legend: 'upper right',
  'key-plan': 'upper left',
  revisions: 'lower right',
};
const BLOCK_GAP_MM = 5;

/** A block where it stands at first. @param size of it; known for key plans */
export function firstBlock(
  kind: BlockKind,
  paper: PaperSize,
  size: Pick<PaperRect, 'widthMm' | 'heightMm'> = { widthMm: 0, heightMm: 0 },
): SheetBlockDto {
  const area = viewAreaOf(paper);
  const corner = firstCorners[kind];
  const isRight = corner.endsWith('right');
  const isLower = corner.startsWith('lower');
  return {
    kind,
    leftMm: isRight ? area.leftMm + area.widthMm - BLOCK_GAP_MM - size.widthMm : area.leftMm + BLOCK_GAP_MM,
    topMm: isLower ? area.topMm + area.heightMm - BLOCK_GAP_MM - size.heightMm : area.topMm + BLOCK_GAP_MM,
  };
}

/** A, B … Z, AA … */
const letterOf = (row: number): string =>
  row <= 26 ? String.fromCharCode(64 + row) : letterOf(Math.floor((row - 1) / 26)) + letterOf(((row - 1) % 26) + 1);

const boxOf = ({ extents }: DrawingDto): NonNullable<DrawingDto['extents']> =>
  extents ?? { min: { x: 0, y: 0, z: 0 }, max: { x: 0, y: 0, z: 0 } };
