import { strFromU8, strToU8 } from 'fflate';
import Papa from 'papaparse';
import { ExchangeError, type ExchangedView, type ReadViews, type WrittenViews } from './view.ts';

const columns = [
  'name',
  'group',
  'x',
  'y',
  'z',
  'unitsPerPx',
  'qx',
  'qy',
  'qz',
  'qw',
  'fovRad',
  'widthPx',
  'heightPx',
  'look',
  'hiddenLayers',
] as const;
type Row = Readonly<Record<(typeof columns)[number], string>>;

/** Between the names of layers in one field. */
const BETWEEN = '|';

/** A table of cameras for spreadsheets (RFC 4180), one view a line. */
export function writeCsvViews(views: readonly ExchangedView[]): WrittenViews {
  const rows = views.map(({ name, group, camera, widthPx, heightPx, shows }): Row => {
    const { x, y, z, unitsPerPx, qx, qy, qz, qw, fovRad } = camera;
    const numbers = { x, y, z, unitsPerPx, qx, qy, qz, qw, fovRad, widthPx, heightPx };
    return {
      name: guarded(name),
      group: guarded(group),
      ...(Object.fromEntries(
        Object.entries(numbers).map(([key, value]) => [key, value === undefined ? '' : String(value)]),
      ) as Record<keyof typeof numbers, string>),
      look: shows.look ?? '',
      hiddenLayers: guarded(shows.hiddenLayers.map((layer) => layer.replaceAll(BETWEEN, '/')).join(BETWEEN)),
    };
  });
  const losses = [
    ...(views.some(({ shows }) => shows.clips.length > 0) ? ['Clips aren’t in the table.'] : []),
    ...(views.some(({ shows }) => shows.hiddenObjects !== '') ? ['Single hidden objects aren’t in the table.'] : []),
    ...(views.some(({ shows }) => (shows.kindsOff ?? []).length > 0)
      ? ['Kinds of things that don’t show aren’t in the table.']
      : []),
    ...(views.some(({ comments }) => (comments ?? []).length > 0) ? ['Comments aren’t in the table.'] : []),
    ...(views.some(({ picture }) => picture) ? ['Pictures aren’t in the table.'] : []),
  ];
  return { bytes: strToU8(`${Papa.unparse(rows, { columns: [...columns], newline: '\r\n' })}\r\n`), losses };
}

/** What a spreadsheet would take for a formula is told as text. */
const guarded = (text: string): string => (/^[=+\-@\t\r']/.test(text) ? `'${text}` : text);
const unguarded = (text: string): string => (/^'[=+\-@\t\r']/.test(text) ? text.slice(1) : text);

/** @throws ExchangeError saying what is wrong and in which line */
export function readCsvViews(bytes: Uint8Array, revision: number): ReadViews {
  const { data, meta } = Papa.parse<Partial<Row>>(strFromU8(bytes).replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
  });
  const missing = (['name', 'x', 'y', 'unitsPerPx'] as const).filter((column) => !meta.fields?.includes(column));
  if (missing.length > 0)
    throw new ExchangeError(
      `The table has no column ${missing.join(', ')}.`,
      `Its first line names the columns: ${columns.join(', ')}.`,
    );
  const views = data.map((row, k): ExchangedView => {
    const number = (column: keyof Row, usual?: number): number => {
      const text = row[column]?.trim() ?? '';
      const value = text === '' && usual !== undefined ? usual : Number(text === '' ? NaN : text);
      if (!Number.isFinite(value))
        throw new ExchangeError(
          `Line ${k + 2}: ${column} is “${text}”, not a number.`,
          'Write numbers with a point, as 1234.5.',
        );
      return value;
    };
    const camera = {
      x: number('x'),
      y: number('y'),
      z: number('z', 0),
      unitsPerPx: number('unitsPerPx'),
      qx: number('qx', 0),
      qy: number('qy', 0),
      qz: number('qz', 0),
      qw: number('qw', 1),
      ...((row.fovRad ?? '').trim() === '' ? {} : { fovRad: number('fovRad') }),
    };
    if (!(camera.unitsPerPx > 0))
      throw new ExchangeError(`Line ${k + 2}: unitsPerPx has to be more than 0.`, 'It is the size of a pixel.');
    const name = unguarded(row.name ?? '')
      .trim()
      .slice(0, 120);
    const layers = unguarded(row.hiddenLayers ?? '');
    return {
      name: name === '' ? `View ${k + 1}` : name,
      group: unguarded(row.group ?? '').slice(0, 120),
      camera,
      widthPx: number('widthPx', 1200),
      heightPx: number('heightPx', 800),
      shows: {
        ...(row.look ? { look: row.look } : {}),
        hiddenLayers: layers === '' ? [] : layers.split(BETWEEN),
        hiddenObjects: '',
        revision,
        clips: [],
      },
    };
  });
  return { views, losses: [] };
}
