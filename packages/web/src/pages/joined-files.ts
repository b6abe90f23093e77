import { unzip } from 'fflate';
import { packGlb } from '@gull-pane/core/pyramid/glb';
import { mediaTypeOf, nameIn, placedPicture, withPictures, worldFileOf } from './joined-pictures';

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
 * and pictures that it names become one GLB; a plan carries the pictures that it names, a picture lies where its world file
 * says.
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
    else if (hasEnding(file, '.svg')) drawings.push(await withPictures(file, files, used));
  }
  for (const picture of files.filter((file) => mediaTypeOf(file.name) !== null && !used.has(file))) {
    const world = worldFileOf(picture, files);
    const placed = world && (await placedPicture(picture, world));
    if (!placed) continue;
    used.add(picture).add(world);
    drawings.push(placed);
  }
  // what belongs to none is sent as it is, and refused with a reason
  const isWhole = (file: File): boolean => ['.obj', '.gltf', '.svg'].some((ending) => hasEnding(file, ending));
  return { drawings: [...drawings, ...files.filter((file) => !isWhole(file) && !used.has(file))], packages };
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
  readonly images?: readonly { readonly uri?: string }[];
}

/** As it is where a buffer isn't among the files: the server says which one is missing. */
async function withBuffers(gltf: File, files: readonly File[], used: Set<File>): Promise<File> {
  const json = jsonOf(await gltf.text());
  const { buffers = [], bufferViews = [], images = [] } = json ?? {};
  const named = (uri = ''): File | undefined => files.find(({ name }) => name === nameIn(uri));
  const owned = buffers.map(({ uri }) => named(uri));
  if (!json || owned.length === 0 || owned.some((file) => !file)) return gltf;
  const offsets: number[] = [];
  let length = 0;
  for (const file of owned) {
    used.add(file!);
    offsets.push(length);
    length += (file!.size + 7) & ~7;
  }
  const views: object[] = [];
  const pictures: (readonly [File, number])[] = [];
  const ownImages = images.map((image) => {
    const file = image.uri === undefined || image.uri.startsWith('data:') ? undefined : named(image.uri);
    if (!file) return image;
    used.add(file);
    pictures.push([file, length]);
    views.push({ buffer: 0, byteOffset: length, byteLength: file.size });
    length += (file.size + 7) & ~7;
    return { bufferView: bufferViews.length + views.length - 1, mimeType: mediaTypeOf(file.name) ?? 'image/png' };
  });
  const bin = new Uint8Array(length);
  for (const [k, file] of owned.entries()) bin.set(new Uint8Array(await file!.arrayBuffer()), offsets[k]);
  for (const [file, at] of pictures) bin.set(new Uint8Array(await file.arrayBuffer()), at);
  const whole = {
    ...json,
    buffers: [{ byteLength: length }],
    ...(images.length > 0 ? { images: ownImages } : {}),
    bufferViews: [
      ...bufferViews.map((view) => ({
        ...view,
        buffer: 0,
        byteOffset: (view.byteOffset ?? 0) + (offsets[view.buffer ?? 0] ?? 0),
      })),
      ...views,
    ],
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
