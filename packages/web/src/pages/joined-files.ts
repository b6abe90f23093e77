import { unzip } from 'fflate';
import { packGlb } from '@gull-pane/core/pyramid/glb';

/** What a package of Gull Pane holds; archives of anything else are taken apart. */
const PACKAGE_PART = 'manifest.json';

/** What was chosen or dropped at the same time. */
export interface JoinedFiles {
  /** Drawings and models, each whole. */
  readonly drawings: readonly File[];
  readonly packages: readonly File[];
}

/**
 * Puts files together that belong together and were chosen or dropped at the same time, or lie in one archive: an OBJ and
 * the materials (MTL) that it names become one OBJ that carries the materials' lines as comments; a glTF and the buffers
 * that it names become one GLB.
 */
export async function joinedFiles(chosen: readonly File[]): Promise<JoinedFiles> {
  const packages: File[] = [];
  const files: File[] = [];
  for (const file of chosen) {
    const parts = hasEnding(file, '.zip') ? await partsOf(file) : [file];
    if (parts) files.push(...parts);
    else packages.push(file);
  }
  const used = new Set<File>();
  const drawings: File[] = [];
  for (const file of files) {
    if (hasEnding(file, '.obj')) drawings.push(await withMaterials(file, files, used));
    else if (hasEnding(file, '.gltf')) drawings.push(await withBuffers(file, files, used));
  }
  // what belongs to none is sent as it is, and refused with a reason
  const isModel = (file: File): boolean => hasEnding(file, '.obj') || hasEnding(file, '.gltf');
  return { drawings: [...drawings, ...files.filter((file) => !isModel(file) && !used.has(file))], packages };
}

const hasEnding = ({ name }: File, ending: string): boolean => name.toLowerCase().endsWith(ending);

/** The files in an archive, by their names without folders; null if it is a package, or can't be taken apart. */
async function partsOf(archive: File): Promise<File[] | null> {
  const bytes = new Uint8Array(await archive.arrayBuffer());
  const parts = await new Promise<Record<string, Uint8Array<ArrayBuffer>> | null>((resolve) => {
    unzip(bytes, (error, found) => resolve(error ? null : found));
  });
  if (!parts || parts[PACKAGE_PART]) return null;
  return Object.entries(parts).flatMap(([path, content]) =>
    content.length === 0 || path.endsWith('/') ? [] : [new File([content], path.replace(/^.*\//, ''))],
  );
}

async function withMaterials(obj: File, files: readonly File[], used: Set<File>): Promise<File> {
  const paints = files.filter((file) => hasEnding(file, '.mtl'));
  for (const paint of paints) used.add(paint);
  const texts = await Promise.all(paints.map((file) => file.text()));
  const lines = texts.flatMap((text) => text.split(/\r?\n/)).map((line) => `#mtl ${line}\n`);
  return lines.length === 0 ? obj : new File([obj, '\n', ...lines], obj.name);
}

interface Buffers {
  readonly buffers?: readonly { readonly uri?: string; readonly byteLength?: number }[];
  readonly bufferViews?: readonly { readonly buffer?: number; readonly byteOffset?: number }[];
}

/** As it is where a buffer isn't among the files: the server says which one is missing. */
async function withBuffers(gltf: File, files: readonly File[], used: Set<File>): Promise<File> {
  const json = jsonOf(await gltf.text());
  const { buffers = [], bufferViews = [] } = json ?? {};
  const owned = buffers.map(({ uri = '' }) =>
    files.find(({ name }) => name === decodeURIComponent(uri).replace(/^.*\//, '')),
  );
  if (!json || owned.length === 0 || owned.some((file) => !file)) return gltf;
  const offsets: number[] = [];
  let length = 0;
  for (const file of owned) {
    used.add(file!);
    offsets.push(length);
    length += (file!.size + 7) & ~7;
  }
  const bin = new Uint8Array(length);
  for (const [k, file] of owned.entries()) bin.set(new Uint8Array(await file!.arrayBuffer()), offsets[k]);
  const whole = {
    ...json,
    buffers: [{ byteLength: length }],
    bufferViews: bufferViews.map((view) => ({
      ...view,
      buffer: 0,
      byteOffset: (view.byteOffset ?? 0) + (offsets[view.buffer ?? 0] ?? 0),
    })),
  };
  return new File([packGlb(whole, bin)], gltf.name.replace(/\.gltf$/i, '.glb'));
}

function jsonOf(text: string): Buffers | null {
  try {
    const json: unknown = JSON.parse(text);
    return typeof json === 'object' && json !== null ? json : null;
  } catch {
    return null;
  }
}
