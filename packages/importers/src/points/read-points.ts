import { Growable } from '@gull-pane/core/geometry/growable';
import type { SolidResult, SolidSink } from '@gull-pane/core/solid/solid-model';
import { POINTS_LEFT_OUT } from '../model/sound-points.ts';
import { ReadError } from '../read-error.ts';
import { Warnings } from '../warnings.ts';
import { numberIn } from './number-bytes.ts';
import { isComment, pointColumnsOf, type PointColumns } from './point-columns.ts';

export interface PointsOptions {
  /** Objects that may be made; four times as many points. */
  readonly maxObjects: number;
  /** Size of the whole file, bytes. */
  readonly size: number;
  readonly onShare?: (share: number) => void;
}

const POINTS_PER_OBJECT = 4;
/** More named points than this are one object a layer. */
const MOST_NAMED = 20_000;
/** More kinds of points than this are one layer. */
const MOST_LAYERS = 1000;
/** Bytes that tell what the columns are. */
const HEAD_BYTES = 1 << 16;
/** A longer line is none of a list of points. */
const MOST_LINE_BYTES = 1 << 16;
const LINE_END = 10;

/** Points of one layer, as they are read. */
class PointSetDraft {
  readonly positions = new Growable(Float64Array);
  readonly colours = new Growable(Uint8Array);
  readonly intensities = new Growable(Float32Array);
  readonly names: string[] = [];
}

/**
 * Reads a list of points, a line each: x, y, z, with colours or an intensity, names and codes where the columns have them.
 * Codes become layers. Named points are objects of their own unless there are very many.
 * @param chunks the file, piece by piece
 * @throws ReadError with what is wrong and in which line
 */
export async function readPoints(
  chunks: AsyncIterable<Uint8Array>,
  sink: SolidSink,
  options: PointsOptions,
): Promise<SolidResult> {
  const warnings = new Warnings('line');
  const drafts = new Map<string, PointSetDraft>();
  const most = POINTS_PER_OBJECT * options.maxObjects;
  let [columns, isFirst, lineNumber, count, named] = [null as PointColumns | null, true, 0, 0, true];
  let held = new Uint8Array(0);
  let read = 0;

  const addLine = (bytes: Uint8Array, from: number, to: number, known: PointColumns): void => {
    lineNumber++;
    const fields = cut(bytes, from, to, known.separator);
    const at = (column: number): number => numberIn(bytes, fields[2 * column]!, fields[2 * column + 1]!, known.isComma);
    const word = (column: number): string =>
      new TextDecoder().decode(bytes.subarray(fields[2 * column], fields[2 * column + 1])).replaceAll('"', '');
    if (fields.length < 6) {
      const line = new TextDecoder().decode(bytes.subarray(from, to)).trim();
      if (!isComment(line) && !(count === 0 && /^\d+$/.test(line)))
        warnings.add('left-out', 'lines with fewer than three columns are left out', lineNumber);
      return;
    }
    if (bytes[fields[0]!] === HASH) return;
    if (isFirst && known.hasNames) {
      isFirst = false;
      return;
    }
    isFirst = false;
    const [x, y, z] = [at(known.x), at(known.y), at(known.z)];
    if (!Number.isFinite(x + y + z)) {
      warnings.add('not-a-number', POINTS_LEFT_OUT, lineNumber);
      return;
    }
    if (++count > most)
      throw new ReadError('limit-exceeded', `There are more than ${most} points (four times GULL_PANE_MAX_ELEMENTS).`);
    const layer = known.layer < 0 ? '' : word(known.layer);
    let draft = drafts.get(layer);
    if (!draft) {
      if (drafts.size >= MOST_LAYERS) draft = drafts.values().next().value!;
      else drafts.set(layer, (draft = new PointSetDraft()));
    }
    draft.positions.push(x * known.scale);
    draft.positions.push(y * known.scale);
    draft.positions.push(z * known.scale);
    if (known.red >= 0)
      for (const channel of [known.red, known.green, known.blue])
        draft.colours.push(Math.min(Math.max(at(channel) || 0, 0), 255));
    else if (known.intensity >= 0) draft.intensities.push(at(known.intensity) || 0);
    if (known.name >= 0 && named) {
      draft.names.push(word(known.name));
      if (count > MOST_NAMED) named = false;
    } else named = false;
  };

  const addLines = (bytes: Uint8Array, isEnd: boolean): Uint8Array => {
    columns ??= pointColumnsOf(
      new TextDecoder().decode(bytes.subarray(0, HEAD_BYTES)).replace(isEnd ? '' : /[^\n]*$/, ''),
    );
    if (!columns)
      throw new ReadError('damaged-file', 'The file is no list of points: x, y and z aren’t found in its lines.');
    let from = 0;
    for (let end = bytes.indexOf(LINE_END); end >= 0; end = bytes.indexOf(LINE_END, from)) {
      addLine(bytes, from, end, columns);
      from = end + 1;
    }
    if (isEnd && from < bytes.length) addLine(bytes, from, bytes.length, columns);
    else if (bytes.length - from > MOST_LINE_BYTES)
      throw new ReadError('damaged-file', `Line ${lineNumber + 1} is longer than ${MOST_LINE_BYTES} bytes.`);
    return bytes.subarray(from);
  };

  for await (const chunk of chunks) {
    const bytes = new Uint8Array(held.length + chunk.length);
    bytes.set(held);
    bytes.set(chunk, held.length);
    read += chunk.length;
    held = columns || bytes.length >= HEAD_BYTES ? Uint8Array.from(addLines(bytes, false)) : bytes;
    options.onShare?.(read / Math.max(options.size, 1));
  }
  addLines(held, true);
  const { unused, frame } = columns!;
  if (unused.length > 0)
    warnings.add('left-out', `columns that are left out: ${unused.slice(0, 10).join(', ').slice(0, 200)}`, 0);
  const layers = handOn(drafts, named, sink, options);
  return {
    layers,
    materials: [{ name: 'Points', colour: { r: 120, g: 130, b: 138, a: 255 }, metalness: 0, roughness: 1 }],
    tree: [],
    cameras: [],
    warnings: warnings.list().map(({ code, message, count: times }) => ({ code, message, count: times })),
    frame,
  };
}

const HASH = 35;
const [BLANK, TAB, SEMICOLON, COMMA, RETURN, QUOTE] = [32, 9, 59, 44, 13, 34];

/** Where the fields of a line begin and end, in turns. */
function cut(bytes: Uint8Array, from: number, to: number, separator: PointColumns['separator']): number[] {
  const fields: number[] = [];
  let end = to;
  while (end > from && (bytes[end - 1] === RETURN || bytes[end - 1] === BLANK)) end--;
  if (separator === 'blank') {
    for (let at = from; at < end;) {
      while (at < end && bytes[at]! <= BLANK) at++;
      const begin = at;
      while (at < end && bytes[at]! > BLANK) at++;
      if (at > begin) fields.push(begin, at);
    }
    return fields;
  }
  const between = separator === ';' ? SEMICOLON : separator === ',' ? COMMA : TAB;
  for (let begin = from; begin <= end;) {
    let stop = begin;
    while (stop < end && bytes[stop] !== between) stop++;
    let [first, last] = [begin, stop];
    while (first < last && (bytes[first] === BLANK || bytes[first] === QUOTE)) first++;
    while (last > first && (bytes[last - 1] === BLANK || bytes[last - 1] === QUOTE)) last--;
    fields.push(first, last);
    begin = stop + 1;
  }
  return fields;
}

function handOn(
  drafts: ReadonlyMap<string, PointSetDraft>,
  named: boolean,
  sink: SolidSink,
  { maxObjects }: PointsOptions,
): { name: string }[] {
  const layers: { name: string }[] = [];
  const none = new Uint32Array(0);
  const [low, high] = rangeOf(drafts.values());
  let objects = 0;
  const add = (name: string, layer: number, positions: Float64Array, colours: Uint8Array | null): void => {
    if (++objects > maxObjects)
      throw new ReadError('limit-exceeded', `There are more than ${maxObjects} objects (GULL_PANE_MAX_ELEMENTS).`);
    const object = sink.object({ name, node: -1, layer });
    sink.part({ object, material: 0, positions, triangles: none, points: { colours } });
  };
  for (const [called, draft] of drafts) {
    const layer = layers.push({ name: called || 'Points' }) - 1;
    const positions = draft.positions.view().slice();
    const grey = (value: number): number =>
      Math.round(40 + (190 * (value - low)) / Math.max(high - low, Number.MIN_VALUE));
    const colours =
      draft.colours.length > 0
        ? draft.colours.view().slice()
        : draft.intensities.length > 0
          ? Uint8Array.from({ length: positions.length }, (_, i) => grey(draft.intensities.at(Math.floor(i / 3))))
          : null;
    if (!named) add(called || 'Points', layer, positions, colours);
    else
      draft.names.forEach((name, i) => {
        const own = colours?.slice(3 * i, 3 * i + 3) ?? null;
        add(name || `Point ${objects + 1}`, layer, positions.slice(3 * i, 3 * i + 3), own);
      });
  }
  return layers;
}

function rangeOf(drafts: Iterable<PointSetDraft>): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const { intensities } of drafts)
    for (const value of intensities.view()) {
      low = Math.min(low, value);
      high = Math.max(high, value);
    }
  return [low, high];
}
