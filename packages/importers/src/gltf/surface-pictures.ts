import type { GltfJson } from './check-document.ts';

/** A picture that lies on a surface, small. */
export interface SurfacePicture {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Red, green, blue a px, row by row from the top, sRGB. */
  readonly rgb: Uint8Array;
}

/** Unpacks a picture, made small; rejects what it can't read. */
export type DecodePicture = (bytes: Uint8Array) => Promise<SurfacePicture>;

/** A picture as a material wears it. */
export interface WornPicture {
  readonly picture: SurfacePicture;
  /** Which of the mesh's sets of texture coordinates it follows. */
  readonly set: number;
  /** From texture coordinates to shares of the picture: a, b, c, d, e, f of x' = a·u + c·v + e, y' = b·u + d·v + f. */
  readonly transform: readonly [number, number, number, number, number, number];
}

interface TextureRef {
  readonly index?: number;
  readonly texCoord?: number;
  readonly extensions?: {
    readonly KHR_texture_transform?: {
      readonly offset?: readonly number[];
      readonly rotation?: number;
      readonly scale?: readonly number[];
      readonly texCoord?: number;
    };
  };
}
interface Pictured extends GltfJson {
  readonly materials?: readonly { readonly pbrMetallicRoughness?: { readonly baseColorTexture?: TextureRef } }[];
  readonly textures?: readonly {
    readonly source?: number;
    readonly extensions?: { readonly EXT_texture_webp?: { readonly source?: number } };
  }[];
  readonly images?: readonly { readonly uri?: string; readonly bufferView?: number }[];
}

/**
 * The pictures that materials wear as their colour, by the materials' numbers.
 * @param bytesOf what a picture's data address or buffer view holds; null for one that lies elsewhere
 * @returns with it how many couldn't be read
 */
export async function wornPictures(
  json: GltfJson,
  bytesOf: (image: { readonly uri?: string; readonly bufferView?: number }) => Uint8Array | null,
  decode: DecodePicture,
): Promise<{ readonly worn: ReadonlyMap<number, WornPicture>; readonly unread: number }> {
  const { materials = [], textures = [], images = [] } = json as Pictured;
  const decoded = new Map<number, Promise<SurfacePicture | null>>();
  const worn = new Map<number, WornPicture>();
  let unread = 0;
  for (const [index, material] of materials.entries()) {
    const ref = material.pbrMetallicRoughness?.baseColorTexture;
    if (!ref) continue;
    const texture = textures[ref.index ?? -1];
    const source = texture?.extensions?.EXT_texture_webp?.source ?? texture?.source ?? -1;
    const image = images[source];
    const bytes = image && bytesOf(image);
    if (bytes && !decoded.has(source))
      decoded.set(
        source,
        decode(bytes).catch(() => null),
      );
    const picture = bytes ? await decoded.get(source)! : null;
    if (!picture) {
      unread++;
      continue;
    }
    const { KHR_texture_transform: moved } = ref.extensions ?? {};
    const [cos, sin] = [Math.cos(moved?.rotation ?? 0), Math.sin(moved?.rotation ?? 0)];
    const [su = 1, sv = 1] = moved?.scale ?? [];
    const [eu = 0, ev = 0] = moved?.offset ?? [];
    // shift · turn · scale, as the extension has it
    const transform = [cos * su, -sin * su, sin * sv, cos * sv, eu, ev] as const;
    worn.set(index, { picture, set: moved?.texCoord ?? ref.texCoord ?? 0, transform: [...transform] });
  }
  return { worn, unread };
}

/** Places within a triangle that its colour is taken from: shares of its corners. */
const SAMPLES = [
  [1 / 3, 1 / 3, 1 / 3],
  [2 / 3, 1 / 6, 1 / 6],
  [1 / 6, 2 / 3, 1 / 6],
  [1 / 6, 1 / 6, 2 / 3],
] as const;

/**
 * The mean colour of each triangle.
 * @param uv texture coordinates of each vertex, two each
 * @param triangles three vertices each
 * @returns red, green, blue a triangle, 0 … 255, sRGB
 */
export function coloursOnTriangles(
  { picture, transform }: WornPicture,
  uv: ArrayLike<number>,
  triangles: Uint32Array,
): Uint8Array {
  const { widthPx, heightPx, rgb } = picture;
  const [a, b, c, d, e, f] = transform;
  const colours = new Uint8Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const sum = [0, 0, 0];
    for (const shares of SAMPLES) {
      let [u, v] = [0, 0];
      for (let k = 0; k < 3; k++) {
        u += shares[k]! * uv[2 * triangles[t + k]!]!;
        v += shares[k]! * uv[2 * triangles[t + k]! + 1]!;
      }
      const column = placeIn(a * u + c * v + e, widthPx);
      const row = placeIn(b * u + d * v + f, heightPx);
      for (let k = 0; k < 3; k++) sum[k]! += rgb[3 * (row * widthPx + column) + k]!;
    }
    for (let k = 0; k < 3; k++) colours[t + k] = Math.round(sum[k]! / SAMPLES.length);
  }
  return colours;
}

/** Pictures repeat without end. */
const placeIn = (share: number, count: number): number =>
  Number.isFinite(share) ? Math.min(Math.floor((share - Math.floor(share)) * count), count - 1) : 0;
