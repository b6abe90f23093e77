import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Style } from '@gull-pane/core/drawing/model';
import { visitExtremes } from '@gull-pane/core/drawing/extents';
import { textFrame } from '@gull-pane/core/drawing/letter-advance';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import type { ExportedDrawing, ExportedObject } from '@gull-pane/exporters/exported';
import type { ExportedSolid } from '@gull-pane/exporters/glb/write-glb';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { ExportPartDto } from '@gull-pane/protocol/export';
import { readStore, type StoredObject } from '../pyramid/object-store.ts';

type Box = ExportedDrawing['box'];

/** Which objects go out. */
export interface ChosenPart {
  readonly isChosen: (object: Pick<StoredObject, 'id' | 'layer'>) => boolean;
  readonly box: Box | null;
}

export function chosenPart({ box, hiddenLayers = [], hiddenObjects = '' }: ExportPartDto, objects: number): ChosenPart {
  const layers = new Set(hiddenLayers);
  const hidden = new Set(numbersOfRanges(hiddenObjects, objects));
  return { box: box ?? null, isChosen: ({ id, layer }) => !layers.has(layer) && !hidden.has(id) };
}

/** Grows a box by what an object covers, lines without their widths. */
function boxOf({ path, text }: Pick<StoredObject, 'path' | 'text'>): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const add = (x: number, y: number): void => {
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  };
  if (path) visitExtremes(path, add);
  if (text) {
    const frame = textFrame(text);
    for (let i = 0; i < frame.length; i += 2) add(frame[i]!, frame[i + 1]!);
  }
  return { minX, minY, maxX, maxY };
}

const overlap = (a: Box, b: Box): boolean =>
  a.minX <= b.maxX && a.maxX >= b.minX && a.minY <= b.maxY && a.maxY >= b.minY;

/** @returns null if no object is chosen */
export function exportedFlat(
  folder: string,
  { name, unit }: DrawingDto,
  layers: readonly LayerDto[],
  { isChosen, box: wanted }: ChosenPart,
): ExportedDrawing | null {
  // drawings that came in before styles were kept have none
  const file = join(folder, 'styles.json');
  const styles = existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Style[]) : [];
  const objects = function* (): Generator<ExportedObject> {
    for (const stored of readStore(folder)) {
      if (!isChosen(stored) || (wanted && !overlap(boxOf(stored), wanted))) continue;
      const { id, layer, path, text, fillRule } = stored;
      yield { id, layer, path, text, fillRule, line: styles[stored.line] ?? null, fill: styles[stored.fill] ?? null };
    }
  };
  let box: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const object of objects()) {
    const own = boxOf(object);
    box = {
      ...{ minX: Math.min(box.minX, own.minX), minY: Math.min(box.minY, own.minY) },
      ...{ maxX: Math.max(box.maxX, own.maxX), maxY: Math.max(box.maxY, own.maxY) },
    };
  }
  return box.minX > box.maxX ? null : { name, unit, layers, box, objects };
}

export function exportedSolids(folder: string, { isChosen }: ChosenPart): () => Iterable<ExportedSolid> {
  return function* () {
    for (const stored of readStore(folder))
      if (stored.solid && isChosen(stored)) yield { ...stored.solid, layer: stored.layer };
  };
}
