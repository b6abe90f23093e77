import { Logger, WebIO, type Document } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { ReadError } from '../read-error.ts';
import { checkDocument, type GltfJson } from './check-document.ts';

export interface GltfOptions {
  /** Objects that may be made. */
  readonly maxObjects: number;
  /** What unpacks compressed meshes, loaded only when a file needs it. */
  readonly draco: () => Promise<unknown>;
  readonly meshopt: () => Promise<unknown>;
  /** Told after each object which share of all nodes is done. */
  readonly onShare?: (share: number) => void;
}

/** Numbers that a file may hold for each object that it may have. */
const NUMBERS_PER_OBJECT = 60;
const GLB_MAGIC = 0x46546c67;

/**
 * Takes a file apart, without its pictures, and unpacks what is compressed.
 * @throws ReadError with what is wrong and where
 */
export async function parseGltf(
  bytes: Uint8Array,
  options: GltfOptions,
): Promise<{ document: Document; json: GltfJson }> {
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
    const bare = { ...json, images: [], textures: [], samplers: [], materials: withoutPictures(json) };
    const document = await io.readJSON({ json: bare as never, resources });
    return { document, json };
  } catch (error) {
    throw new ReadError('damaged-file', `The model can't be taken apart: ${messageOf(error)}`);
  }
}

const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

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
  const text = atob(uri.slice(uri.indexOf(',') + 1));
  return Uint8Array.from(text, (character) => character.charCodeAt(0));
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
