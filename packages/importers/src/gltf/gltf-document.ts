import { Logger, WebIO, type Document } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { ReadError } from '../read-error.ts';
import { checkDocument, type GltfJson } from './check-document.ts';
import { wornPictures, type DecodePicture, type WornPicture } from './surface-pictures.ts';

export interface GltfOptions {
  /** Objects that may be made. */
  readonly maxObjects: number;
  /** What unpacks compressed meshes, loaded only when a file needs it. */
  readonly draco: () => Promise<unknown>;
  readonly meshopt: () => Promise<unknown>;
  /** Unpacks pictures on surfaces; without it they are left out. */
  readonly picture?: DecodePicture;
  /** Told after each object which share of all nodes is done. */
  readonly onShare?: (share: number) => void;
}

/** A file that is taken apart. */
export interface ParsedGltf {
  readonly document: Document;
  readonly json: GltfJson;
  /** The pictures that materials wear, by the materials' numbers. */
  readonly worn: ReadonlyMap<number, WornPicture>;
  /** Pictures that couldn't be read. */
  readonly unreadPictures: number;
}

/** Numbers that a file may hold for each object that it may have. */
const NUMBERS_PER_OBJECT = 60;
const GLB_MAGIC = 0x46546c67;

/**
 * Takes a file apart, without its pictures, and unpacks what is compressed.
 * @throws ReadError with what is wrong and where
 */
export async function parseGltf(bytes: Uint8Array, options: GltfOptions): Promise<ParsedGltf> {
  const isBinary = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(0, true) === GLB_MAGIC;
  const { json, bin } = isBinary ? takeApart(bytes) : { json: jsonOf(bytes), bin: null };
  checkDocument(json, bin?.length ?? 0, { maxNumbers: NUMBERS_PER_OBJECT * options.maxObjects });
  const io = new WebIO({ credentials: 'omit' }).setLogger(new Logger(Logger.Verbosity.SILENT));
  io.registerExtensions(ALL_EXTENSIONS);
  const text = JSON.stringify(json);
  const dependencies: Record<string, unknown> = {};
  if (text.includes('KHR_draco_mesh_compression')) dependencies['draco3d.decoder'] = await options.draco();
  if (text.includes('EXT_meshopt_compression')) dependencies['meshopt.decoder'] = await options.meshopt();
  io.registerDependencies(dependencies);
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  if (bin) resources['@glb.bin'] = bin;
  for (const { uri } of json.buffers ?? []) if (uri?.startsWith('data:')) resources[uri] = fromDataUri(uri);
  try {
    // pictures aren't shown, and those elsewhere are never fetched
    const bare = { ...json, images: [], textures: [], samplers: [], materials: withoutPictures(json), ...noScene };
    const document = await io.readJSON({ json: bare as never, resources });
    const bytesOfImage = (image: { readonly uri?: string; readonly bufferView?: number }): Uint8Array | null => {
      if (image.uri !== undefined) return image.uri.startsWith('data:') ? fromDataUri(image.uri) : null;
      const view = json.bufferViews?.[image.bufferView ?? -1];
      const whole = view && resources[json.buffers?.[view.buffer ?? -1]?.uri ?? '@glb.bin'];
      return whole?.subarray(view!.byteOffset ?? 0, (view!.byteOffset ?? 0) + (view!.byteLength ?? 0)) ?? null;
    };
    const { worn, unread } = options.picture
      ? await wornPictures(json, bytesOfImage, options.picture)
      : { worn: new Map<number, WornPicture>(), unread: json.images?.length ?? 0 };
    return { document, json, worn, unreadPictures: unread };
  } catch (error) {
    throw new ReadError('damaged-file', `The model can't be taken apart: ${messageOf(error)}`);
  }
}

const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** Nodes are walked as they are written: the package takes kilobytes for each. */
const noScene = { nodes: [], scenes: [], scene: undefined, skins: [], animations: [], cameras: [] };

/** The chunks of a GLB (glTF 2.0, section 4); the binary one may be missing. */
function takeApart(bytes: Uint8Array): { json: GltfJson; bin: Uint8Array<ArrayBuffer> | null } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const damaged = (what: string): ReadError => new ReadError('damaged-file', `The .glb file is damaged: ${what}.`);
  if (bytes.length < 20) throw damaged('it ends within its head');
  if (view.getUint32(4, true) !== 2) throw damaged(`it is of version ${view.getUint32(4, true)}, only 2 is read`);
  const total = view.getUint32(8, true);
  if (total > bytes.length) throw damaged(`it should have ${total} bytes and has ${bytes.length}; it was cut off`);
  const jsonLength = view.getUint32(12, true);
  if (20 + jsonLength > total) throw damaged('its first part is longer than the file');
  const json = jsonOf(bytes.subarray(20, 20 + jsonLength));
  const at = 20 + jsonLength;
  if (at + 8 > total) return { json, bin: null };
  const binLength = view.getUint32(at, true);
  if (at + 8 + binLength > total) throw damaged('its second part is longer than the file');
  return { json, bin: bytes.slice(at + 8, at + 8 + binLength) };
}

function jsonOf(bytes: Uint8Array): GltfJson {
  try {
    const json: unknown = JSON.parse(new TextDecoder().decode(bytes));
    if (typeof json === 'object' && json !== null) return json;
  } catch (error) {
    throw new ReadError('malformed-json', `The model's description is no JSON: ${messageOf(error)}`);
  }
  throw new ReadError('not-a-model', 'The file holds JSON, but no glTF model.');
}

function fromDataUri(uri: string): Uint8Array<ArrayBuffer> {
  const text = base64(uri.slice(uri.indexOf(',') + 1));
  return Uint8Array.from(text, (character) => character.charCodeAt(0));
}

function base64(text: string): string {
  try {
    return atob(text);
  } catch {
    throw new ReadError('damaged-file', 'A buffer that is written into the model is no base64.');
  }
}

/** Materials with their plain values alone. */
function withoutPictures(json: GltfJson): unknown[] {
  const { materials = [] } = json as {
    materials?: { name?: string; pbrMetallicRoughness?: Record<string, unknown> }[];
  };
  return materials.map((material) => {
    const pbr = Object.fromEntries(
      Object.entries(material.pbrMetallicRoughness ?? {}).filter(([name]) => !name.endsWith('Texture')),
    );
    const { alphaMode } = material as { alphaMode?: string };
    return {
      ...(material.name === undefined ? {} : { name: material.name }),
      ...(alphaMode === undefined ? {} : { alphaMode }),
      pbrMetallicRoughness: pbr,
    };
  });
}
