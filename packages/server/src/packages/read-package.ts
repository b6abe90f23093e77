import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, type WriteStream } from 'node:fs';
import { mkdir, readFile } from 'node:fs/promises';
import { once } from 'node:events';
import { join } from 'node:path';
import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate';
import { KeepArrangementDto } from '@gull-pane/protocol/arrangements';
import { KeepCardDto } from '@gull-pane/protocol/cards';
import { MarkDto } from '@gull-pane/protocol/marks';
import { DtoError, readDto, readDtoList } from '@gull-pane/protocol/dto';
import { PACKAGE_FORMAT, PACKAGE_VERSION, PackageManifestDto, PickSetDto } from '@gull-pane/protocol/packages';
import { KeepSheetSetDto } from '@gull-pane/protocol/sheet-sets';
import { KeepTourDto } from '@gull-pane/protocol/tours';
import { Problem } from '../problem.ts';

/** All that may stand in a package. */
const PATHS = [
  'manifest.json',
  'source',
  'cards.json',
  'tours.json',
  'arrangements.json',
  'picked-sets.json',
  'marks.json',
  'sheets.json',
] as const;
/** The versions since which some are there. */
const SINCE: Partial<Record<(typeof PATHS)[number], number>> = { 'marks.json': 2, 'sheets.json': 3 };
type Path = (typeof PATHS)[number];

export interface PackageContent {
  readonly manifest: PackageManifestDto;
  readonly cards: readonly KeepCardDto[];
  readonly tours: readonly KeepTourDto[];
  readonly arrangements: readonly KeepArrangementDto[];
  readonly pickSets: readonly PickSetDto[];
  readonly marks: readonly MarkDto[];
  readonly sheetSets: readonly KeepSheetSetDto[];
  /** Where its source file was unpacked. */
  readonly source: string;
}

const damaged = (detail: string): Problem => new Problem('package-damaged', { detail });

interface Entry {
  bytes: number;
  readonly hash: ReturnType<typeof createHash>;
  readonly stream: WriteStream;
}

/**
 * Unpacks a package and checks all of it: every file there, whole, and of the form that it has to have.
 * @param folder where it goes; made
 * @param mostBytes that all together may have
 * @throws Problem package-damaged telling what is wrong, package-too-new
 */
export async function readPackage(file: string, folder: string, mostBytes: number): Promise<PackageContent> {
  await mkdir(folder, { recursive: true });
  const entries = await unpack(file, folder, mostBytes);
  const manifest = await manifestIn(folder, entries);
  for (const path of PATHS) {
    if (path === 'manifest.json') continue;
    const told = manifest.files.find((one) => one.path === path);
    const found = entries.get(path);
    if (!told && !found && manifest.version < (SINCE[path] ?? 1)) continue;
    if (!told) throw damaged(`The manifest doesn’t name ${path}.`);
    if (!found) throw damaged(`${path} is missing.`);
    if (found.bytes !== told.bytes || found.sha256 !== told.sha256)
      throw damaged(`${path} isn’t what the manifest tells.`);
  }
  const list = async <T extends object>(path: Path, type: new () => T): Promise<T[]> => {
    try {
      return readDtoList(type, JSON.parse(await readFile(join(folder, path), 'utf8')));
    } catch (error) {
      const why = error instanceof DtoError || error instanceof SyntaxError ? error.message : String(error);
      throw damaged(`${path}: ${why}`);
    }
  };
  return {
    manifest,
    cards: await list('cards.json', KeepCardDto),
    tours: await list('tours.json', KeepTourDto),
    arrangements: await list('arrangements.json', KeepArrangementDto),
    pickSets: await list('picked-sets.json', PickSetDto),
    marks: entries.has('marks.json') ? await list('marks.json', MarkDto) : [],
    sheetSets: entries.has('sheets.json') ? await list('sheets.json', KeepSheetSetDto) : [],
    source: join(folder, 'source'),
  };
}

async function manifestIn(folder: string, entries: ReadonlyMap<string, unknown>): Promise<PackageManifestDto> {
  if (!entries.has('manifest.json')) throw damaged('It has no manifest.json, or it breaks off before that.');
  let told: unknown;
  try {
    told = JSON.parse(await readFile(join(folder, 'manifest.json'), 'utf8'));
  } catch (error) {
    throw damaged(`manifest.json isn’t whole JSON: ${String(error)}`);
  }
  const { format, version } = (told ?? {}) as { readonly format?: unknown; readonly version?: unknown };
  if (format !== PACKAGE_FORMAT) throw damaged('Its manifest is of something else.');
  if (typeof version === 'number' && version > PACKAGE_VERSION)
    throw new Problem('package-too-new', {
      detail: `It is of version ${version}; up to ${PACKAGE_VERSION} can be read.`,
    });
  try {
    return readDto(PackageManifestDto, told);
  } catch (error) {
    throw damaged(`manifest.json: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/** Unpacks piece by piece; names outside the list, twice the same, or too much are refused. */
async function unpack(
  file: string,
  folder: string,
  mostBytes: number,
): Promise<ReadonlyMap<string, { readonly bytes: number; readonly sha256: string }>> {
  const entries = new Map<string, Entry>();
  const trouble: { error: Error | null } = { error: null };
  let total = 0;
  const unzip = new Unzip((entry) => {
    const isKnown = PATHS.some((path) => path === entry.name);
    if (!isKnown || entries.has(entry.name)) {
      trouble.error ??= damaged(
        isKnown ? `${entry.name} is in it twice.` : `“${entry.name.slice(0, 80)}” has no place in it.`,
      );
      return;
    }
    const own: Entry = { bytes: 0, hash: createHash('sha256'), stream: createWriteStream(join(folder, entry.name)) };
    entries.set(entry.name, own);
    entry.ondata = (error, bytes) => {
      if (error) trouble.error ??= damaged(`${entry.name} can’t be unpacked: ${error.message}`);
      if (trouble.error || error) return;
      total += bytes.length;
      if (total > mostBytes) trouble.error ??= new Problem('file-too-large', { detail: 'Unpacked it is too large.' });
      own.bytes += bytes.length;
      own.hash.update(bytes);
      own.stream.write(bytes);
    };
    entry.start();
  });
  unzip.register(UnzipInflate);
  unzip.register(UnzipPassThrough);
  try {
    let isFirst = true;
    for await (const piece of createReadStream(file) as AsyncIterable<Buffer>) {
      if (isFirst && !(piece[0] === 0x50 && piece[1] === 0x4b)) throw damaged('It is no .zip archive.');
      isFirst = false;
      try {
        unzip.push(piece, false);
      } catch (error) {
        throw damaged(`It can’t be unpacked: ${error instanceof Error ? error.message : String(error)}`);
      }
      if (trouble.error) throw trouble.error;
      for (const { stream } of entries.values()) if (stream.writableNeedDrain) await once(stream, 'drain');
    }
  } finally {
    for (const { stream } of entries.values()) {
      stream.end();
      if (!stream.closed) await once(stream, 'close');
    }
  }
  return new Map([...entries].map(([name, { bytes, hash }]) => [name, { bytes, sha256: hash.digest('hex') }]));
}
