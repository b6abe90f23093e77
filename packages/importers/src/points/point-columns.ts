/** What the columns of a list of points hold. */
export interface PointColumns {
  readonly separator: 'blank' | ',' | ';' | 'tab';
  /** Whether commas are decimal points. */
  readonly isComma: boolean;
  /** Whether the first line names the columns. */
  readonly hasNames: boolean;
  /** Number of the column of each; −1 where there is none. */
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly red: number;
  readonly green: number;
  readonly blue: number;
  readonly intensity: number;
  readonly name: number;
  readonly layer: number;
  /** Millimetres a unit of the coordinates. */
  readonly scale: number;
  /** What was made of the file, in words. */
  readonly frame: string;
  /** Columns that aren't taken over. */
  readonly unused: readonly string[];
}

type Field = 'x' | 'y' | 'z' | 'red' | 'green' | 'blue' | 'intensity' | 'name' | 'layer';

const names: Readonly<Record<Field, readonly string[]>> = {
  x: ['x', 'easting', 'east', 'e'],
  y: ['y', 'northing', 'north', 'n'],
  z: ['z', 'height', 'elevation', 'elev', 'level', 'h', 'altitude'],
  red: ['r', 'red'],
  green: ['g', 'green'],
  blue: ['b', 'blue'],
  intensity: ['i', 'intensity', 'reflectance'],
  name: ['name', 'id', 'point', 'number', 'no', 'pointid', 'pointname', 'tag'],
  layer: ['layer', 'code', 'class', 'classification'],
};

const scales: Readonly<Record<string, number>> = { mm: 1, cm: 10, m: 1000, ft: 304.8, in: 25.4 };
const unitNames: Readonly<Record<string, string>> = {
  mm: 'millimetres',
  cm: 'centimetres',
  m: 'metres',
  ft: 'feet',
  in: 'inches',
};

/** So many lines tell what a list is. */
const TELLING_LINES = 20;

/** So many of them must hold a point. */
const LEAST_SOUND = 0.8;

/** Whether a line of a list of points says nothing: it is empty or a comment. */
export const isComment = (line: string): boolean => line === '' || /^(#|\/\/|%|!)/.test(line);

/** The fields of a line. */
export function fieldsOf(line: string, separator: PointColumns['separator']): string[] {
  if (separator === 'blank') return line.trim().split(/\s+/);
  return line.split(separator === 'tab' ? '\t' : separator).map((field) => field.trim().replaceAll(/^"|"$/g, ''));
}

const isNumber = (field: string, isComma = false): boolean =>
  /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(isComma ? field.replace(',', '.') : field);

/**
 * Finds out what a list of points holds by its first lines: x, y and z in a line each, with or without a line of names
 * before them, separated by blanks, tabs, semicolons or commas.
 * @param text the beginning of the file; a last line that is cut off is left out by the caller
 * @returns null if it is no list of points
 */
export function pointColumnsOf(text: string): PointColumns | null {
  const lines = text
    .split('\n', 4 * TELLING_LINES)
    .map((line) => line.trim())
    .filter((line) => !isComment(line))
    .slice(0, TELLING_LINES);
  // a line of one whole number alone says how many there are
  if (/^\d+$/.test(lines[0] ?? '')) lines.shift();
  const hasNames = namedPlaces(fieldsOf(lines[0] ?? '', separatorOf(lines[0] ?? ''))) !== null;
  const told = hasNames ? lines.slice(1) : lines;
  if (told.length < (hasNames ? 1 : 2)) return null;
  const separator = separatorOf(told[0]!);
  const isComma = separator !== ',' && /\d,\d/.test(told[0]!);
  const rows = told.map((line) => fieldsOf(line, separator));
  const width = rows[0]!.length;
  if (width < 3) return null;
  const places = hasNames
    ? namedPlaces(fieldsOf(lines[0]!, separatorOf(lines[0]!)))
    : usualPlaces(
        rows.filter((row) => row.length === width),
        (field) => isNumber(field, isComma),
      );
  if (!places) return null;
  const sound = rows.filter((row) => [places.x, places.y, places.z].every((at) => isNumber(row[at] ?? '', isComma)));
  if (sound.length < LEAST_SOUND * rows.length) return null;
  const { unit, unused, ...columns } = places;
  const known = unit ?? 'm';
  return {
    separator,
    isComma,
    hasNames,
    ...columns,
    scale: scales[known]!,
    unused,
    frame: [
      unit
        ? `The names of the columns tell ${unitNames[unit]}: taken as millimetres with Z up`
        : 'A list of points tells no unit: taken as metres with Z up',
      ...(isComma ? ['commas were read as decimal points'] : []),
    ].join('; '),
  };
}

function separatorOf(line: string): PointColumns['separator'] {
  if (line.includes(';')) return ';';
  if (line.includes('\t')) return 'tab';
  // “1,5 2,5 3” has decimal commas, “1, 2, 3” has commas between its numbers
  const words = line.trim().split(/\s+/);
  if (!line.includes(',')) return 'blank';
  return words.length >= 3 && words.every((word) => isNumber(word, true)) ? 'blank' : ',';
}

type Places = Pick<PointColumns, Field> & { readonly unit: string | null; readonly unused: readonly string[] };

function namedPlaces(fields: readonly string[]): Places | null {
  const bare = fields.map((field) => field.toLowerCase().replace(/\s*[[(].*[\])]\s*$/, ''));
  const parts = bare.map((field) => /^(.*?)[_ ](mm|cm|m|ft|in)$/.exec(field)?.[1] ?? field);
  const keys = parts.map((field) => field.replaceAll(/[^a-z]/g, ''));
  const at = (field: Field): number => keys.findIndex((key) => names[field].includes(key));
  const places = Object.fromEntries(Object.keys(names).map((field) => [field, at(field as Field)])) as Record<
    Field,
    number
  >;
  if (Math.min(places.x, places.y, places.z) < 0) return null;
  const told = /(?:[[(_ ])(mm|cm|m|ft|in)[\])]?\s*$/i.exec(fields[places.x]!)?.[1]?.toLowerCase();
  const used = new Set(Object.values(places));
  return { ...places, unit: told ?? null, unused: fields.filter((_, i) => !used.has(i)) };
}

/** Where columns have no names: x y z, then an intensity or red, green, blue or both; a name may stand first. */
function usualPlaces(rows: readonly (readonly string[])[], isNumeric: (field: string) => boolean): Places | null {
  const first = rows.every((row) => isNumeric(row[0]!)) ? 0 : 1;
  const numbers = rows[0]!.length - first;
  if (numbers < 3 || !rows.every((row) => row.slice(first, first + 3).every(isNumeric))) return null;
  const isChannel = (at: number): boolean => rows.every((row) => /^\d+$/.test(row[at] ?? '') && Number(row[at]) < 256);
  const rgbAt = [first + 3, first + 4].find((at) => [at, at + 1, at + 2].every(isChannel)) ?? -1;
  const hasIntensity =
    rgbAt === first + 4 || (rgbAt < 0 && numbers === 4 && rows.every((row) => isNumeric(row[first + 3]!)));
  const intensity = hasIntensity ? first + 3 : -1;
  const channel = (k: number): number => (rgbAt < 0 ? -1 : rgbAt + k);
  const places = {
    x: first,
    y: first + 1,
    z: first + 2,
    red: channel(0),
    green: channel(1),
    blue: channel(2),
    intensity,
    name: first === 1 ? 0 : -1,
    layer: -1,
  };
  const used = new Set(Object.values(places));
  const unused = rows[0]!.map((_, i) => `column ${i + 1}`).filter((_, i) => !used.has(i));
  return { ...places, unit: null, unused };
}
