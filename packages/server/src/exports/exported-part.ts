import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Style } from '@gull-pane/core/drawing/model';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import type { ExportedDrawing, ExportedObject } from '@gull-pane/exporters/exported';
import type { ExportedSolid } from '@gull-pane/exporters/glb/write-glb';
import type { Mark } from '@gull-pane/core/marks/mark';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { ExportFrameDto, ExportKind, ExportPartDto } from '@gull-pane/protocol/export';
import { exportedMarks } from './exported-marks.ts';
import { exportedPictures } from './exported-pictures.ts';
import { PLACE_FILE } from '../jobs/import-flat.ts';
import { readStore, readTold, type StoredObject } from '../pyramid/read-store.ts';
import { boxOfObject, overlap, type Box, type ObjectBoxes } from './object-boxes.ts';

/** Which objects go out. */
export interface ChosenPart {
  readonly isChosen: (object: Pick<StoredObject, 'id' | 'layer'>) => boolean;
  readonly box: Box | null;
  /** Of all objects, where they are known: what lies elsewhere isn't read then. */
  readonly boxes?: ObjectBoxes;
  readonly frame: ExportFrameDto | null;
  /** How an object goes out; null if it stays. */
  readonly asShown: (object: ExportedObject) => ExportedObject | null;
}

export function chosenPart(part: ExportPartDto, objects: number): ChosenPart {
  const { box = null, frame = null, kindsOff = [], hiddenLayers = [], hiddenObjects = '' } = part;
  const layers = new Set(hiddenLayers);
  const hidden = new Set(numbersOfRanges(hiddenObjects, objects));
  return {
    box,
    frame,
    isChosen: ({ id, layer }) => !layers.has(layer) && !hidden.has(id),
    asShown: shownWithout(new Set(kindsOff)),
  };
}

/** How objects go out where some kinds of content aren't shown. */
function shownWithout(off: ReadonlySet<ExportKind>): ChosenPart['asShown'] {
  const covering = <S extends Style>(style: S): S =>
    off.has('transparency') ? { ...style, colour: { ...style.colour, a: 255 } } : style;
  const asLine = (line: Style): Style => ({
    ...covering(line),
    ...(off.has('lineStyles') ? { colour: { r: 0, g: 0, b: 0, a: 255 } } : {}),
    ...(off.has('weights') ? { width: 0 } : {}),
    ...(off.has('dashes') ? { dashes: [] } : {}),
  });
  return (object) => {
    if (off.size === 0) return object;
    if (object.picture) return off.has('fills') ? null : object;
    if (object.text && off.has('texts')) return null;
    const fill = object.fill && !off.has('fills') ? covering(object.fill) : null;
    if (object.path && object.fill && !fill && !object.line) return null;
    return { ...object, line: object.line && asLine(object.line), fill };
  };
}

const joined = (a: Box, b: Box): Box => ({
  minX: Math.min(a.minX, b.minX),
  minY: Math.min(a.minY, b.minY),
  maxX: Math.max(a.maxX, b.maxX),
  maxY: Math.max(a.maxY, b.maxY),
});

/** The longer side of all places of marks. */
function sizeOf(marks: readonly Mark[]): number {
  const sides = (['x', 'y'] as const).map((axis) => {
    const all = marks.flatMap(({ points }) => points.map((point) => point[axis]));
    return all.reduce((a, b) => Math.max(a, b), -Infinity) - all.reduce((a, b) => Math.min(a, b), Infinity);
  });
  return Math.max(...sides, 1);
}

/** @returns null if no object is chosen */
export function exportedFlat(
  folder: string,
  drawing: DrawingDto,
  layers: readonly LayerDto[],
  chosen: ChosenPart,
  marks: readonly Mark[],
): ExportedDrawing | null {
  const placeFile = join(folder, PLACE_FILE);
  const place = existsSync(placeFile) ? (JSON.parse(readFileSync(placeFile, 'utf8')) as { meridianDeg: number }) : {};
  const nothing: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  let box = nothing;
  for (const object of storedObjects(folder, chosen)()) box = joined(box, boxOfObject(object));
  const isEmpty = box.minX > box.maxX;
  const longerSide = isEmpty ? sizeOf(marks) : Math.max(box.maxX - box.minX, box.maxY - box.minY);
  const written = flatObjects(folder, drawing, layers, chosen, marks, longerSide);
  for (const object of written.onTop) box = joined(box, boxOfObject(object));
  if (box.minX > box.maxX) return null;
  const { name, unit } = drawing;
  return { name, unit, ...place, layers: written.layers, box, frame: chosen.frame, objects: written.objects };
}

/**
 * What of a flat drawing goes out, with marks on top of it.
 * @param longerSide of what goes out: marks are as large as it asks for
 */
export function flatObjects(
  folder: string,
  { unit, counts }: DrawingDto,
  layers: readonly LayerDto[],
  chosen: ChosenPart,
  marks: readonly Mark[],
  longerSide: number,
): Pick<ExportedDrawing, 'layers' | 'objects'> & { readonly onTop: readonly ExportedObject[] } {
  const stored = storedObjects(folder, chosen);
  const markPlace = { unit, longerSide, firstLayer: layers.length, firstId: counts.objects };
  const marked = exportedMarks(marks, markPlace);
  const onTop = marked.objects.filter((object) => !chosen.box || overlap(boxOfObject(object), chosen.box));
  return {
    layers: [...layers, ...marked.layers],
    onTop,
    *objects() {
      yield* stored();
      yield* onTop;
    },
  };
}

/** Styles of a drawing's lines and areas; none for drawings imported before styles were kept. */
export function stylesIn(folder: string): readonly Style[] {
  const file = join(folder, 'styles.json');
  return existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Style[]) : [];
}

/** The drawing's own objects in their order of painting; pictures lie below everything. */
function storedObjects(
  folder: string,
  { isChosen, asShown, box: wanted, boxes }: ChosenPart,
): () => Generator<ExportedObject> {
  const styles = stylesIn(folder);
  const told = readTold(folder);
  const pictures = exportedPictures(folder);
  const those = function* (isMeant: (stored: StoredObject) => boolean): Generator<ExportedObject> {
    for (const stored of readStore(folder, wanted && boxes ? (id) => boxes.reach(id, wanted) : undefined)) {
      if (!isMeant(stored)) continue;
      if (!isChosen(stored) || (wanted && !overlap(boxOfObject(stored), wanted))) continue;
      const { id, layer, path, text, fillRule } = stored;
      const [line, fill] = [styles[stored.line] ?? null, styles[stored.fill] ?? null];
      const own = told.get(id);
      const picture = pictures.get(id);
      const shown = asShown({
        id,
        layer,
        path,
        text,
        fillRule,
        line,
        fill,
        ...(own === undefined ? {} : { told: own }),
        ...(picture ? { picture } : {}),
      });
      if (shown) yield shown;
    }
  };
  return function* () {
    if (pictures.size > 0) yield* those(({ id }) => pictures.has(id));
    yield* those(({ id }) => !pictures.has(id));
  };
}

export function exportedSolids(folder: string, { isChosen }: ChosenPart): () => Iterable<ExportedSolid> {
  return function* () {
    for (const stored of readStore(folder))
      if (stored.solid && isChosen(stored)) yield { ...stored.solid, layer: stored.layer };
  };
}
