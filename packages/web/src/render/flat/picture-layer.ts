import { BufferAttribute, BufferGeometry, GLSL3, Matrix4, Mesh, RawShaderMaterial, Vector4, type Texture } from 'three';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import {
  pictureTilesIn,
  tileOnPicture,
  type PictureTile,
  type PlacedPicture,
} from '@gull-pane/core/pictures/picture-tiles';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import type { TilesetPicture } from '@gull-pane/protocol/tileset';
import type { PaneView } from '../picture/pane-view';
import { PictureCache } from './picture-cache';

const vertexShader = /* glsl */ `
precision highp float;
uniform mat4 modelMatrix;
uniform mat4 viewMatrix;
uniform mat4 projectionMatrix;
uniform vec4 part; // of the image: left, top, right, bottom
in vec3 position;
out vec2 at;
out vec2 place;
void main() {
  at = mix(part.xy, part.zw, position.xy);
  vec4 own = modelMatrix * vec4(position, 1.0);
  place = own.xy;
  gl_Position = projectionMatrix * (viewMatrix * own);
  gl_Position.z = 0.0; // below all by being drawn first
}`;
const fragmentShader = /* glsl */ `
precision highp float;
uniform sampler2D image;
uniform float opacity;
uniform vec4 clip; // least x and y, then the largest
in vec2 at;
in vec2 place;
out vec4 colour;
void main() {
  if (place.x < clip.x || place.y < clip.y || place.x > clip.z || place.y > clip.w) discard;
  colour = texture(image, at) * opacity; // premultiplied
}`;

type LaidPicture = PlacedPicture & Omit<TilesetPicture, keyof PlacedPicture>;

/** The raster pictures of a plan: they lie below everything else. */
export class PictureLayer {
  readonly #pictures: readonly LaidPicture[];
  readonly #cache: PictureCache;
  readonly #square = unitSquare();
  /** Kept from frame to frame: as many as were drawn at once. */
  readonly #meshes: Mesh<BufferGeometry, RawShaderMaterial>[] = [];

  /**
   * @param base where the pyramids are
   * @param onChange told when more can be drawn
   */
  constructor(pictures: readonly TilesetPicture[], base: string, onChange: () => void) {
    this.#pictures = pictures.map(({ place: [a, b, c, d, e, f], clip, ...picture }) => ({
      ...picture,
      place: { a, b, c, d, e, f },
      clip: clip ? { minX: clip[0], minY: clip[1], maxX: clip[2], maxY: clip[3] } : null,
    }));
    this.#cache = new PictureCache(base, onChange);
  }

  get bytes(): number {
    return this.#cache.bytes;
  }

  /** Rises whenever more can be drawn. */
  get version(): number {
    return this.#cache.version;
  }

  /** Asks for what a view shows. @param picture for which it is wanted @returns whether all of it is there */
  want(picture: string, view: PaneView, hidden: ObjectMask | null, pixelRatio: number): boolean {
    const tiles = this.#shown(view, hidden).flatMap((own) =>
      pictureTilesIn(own, view.camera, view.viewport, pixelRatio).map((tile) => [own, tile] as const),
    );
    this.#cache.want(picture, tiles);
    return !this.#cache.isBusyFor(picture);
  }

  /** Whether something that was asked for is still to come. */
  isBusyFor(picture: string): boolean {
    return this.#cache.isBusyFor(picture);
  }

  leave(picture: string): void {
    this.#cache.leave(picture);
  }

  /** What is there of a view, the lowest first, about a place. */
  objects(view: PaneView, hidden: ObjectMask | null, pixelRatio: number, about: Vec3): readonly Mesh[] {
    let count = 0;
    for (const own of this.#shown(view, hidden))
      for (const tile of pictureTilesIn(own, view.camera, view.viewport, pixelRatio)) {
        const held = this.#cache.best(own, tile);
        if (!held) continue;
        const mesh = (this.#meshes[count] ??= this.#makeMesh());
        place(mesh, own, tile, held, about, view.kinds.transparency);
        mesh.renderOrder = count++;
      }
    return this.#meshes.slice(0, count);
  }

  dispose(): void {
    this.#cache.dispose();
    this.#square.dispose();
    for (const { material } of this.#meshes) material.dispose();
  }

  #shown({ hiddenLayers, kinds }: PaneView, hidden: ObjectMask | null): readonly LaidPicture[] {
    if (!kinds.fills) return [];
    return this.#pictures.filter(({ layer, object }) => !hiddenLayers.has(layer) && !hidden?.has(object));
  }

  #makeMesh(): Mesh<BufferGeometry, RawShaderMaterial> {
    const material = new RawShaderMaterial({
      glslVersion: GLSL3,
      vertexShader,
      fragmentShader,
      uniforms: {
        image: { value: null as Texture | null },
        part: { value: new Vector4() },
        clip: { value: new Vector4() },
        opacity: { value: 1 },
      },
      transparent: true,
      premultipliedAlpha: true,
      depthTest: false,
      depthWrite: false,
      side: 2,
    });
    const mesh = new Mesh(this.#square, material);
    mesh.frustumCulled = false;
    mesh.matrixAutoUpdate = false;
    mesh.matrixWorldAutoUpdate = false;
    return mesh;
  }
}

function place(
  { matrixWorld, material: { uniforms } }: Mesh<BufferGeometry, RawShaderMaterial>,
  picture: LaidPicture,
  tile: PictureTile,
  held: { readonly tile: PictureTile; readonly texture: Texture; readonly width: number; readonly height: number },
  about: Vec3,
  isSeenThrough: boolean,
): void {
  const { place: own, part } = tileOnPicture(picture, tile, held.tile, held);
  const { a, b, c, d, e, f } = own;
  matrixWorld.copy(new Matrix4().set(a, c, 0, e - about.x, b, d, 0, f - about.y, 0, 0, 1, 0, 0, 0, 0, 1));
  uniforms.image!.value = held.texture;
  (uniforms.part!.value as Vector4).set(...part);
  uniforms.opacity!.value = isSeenThrough ? picture.opacity : 1;
  const { clip } = picture;
  const far = 1e30;
  const [minX, minY, maxX, maxY] = clip
    ? [clip.minX - about.x, clip.minY - about.y, clip.maxX - about.x, clip.maxY - about.y]
    : [-far, -far, far, far];
  (uniforms.clip!.value as Vector4).set(minX, minY, maxX, maxY);
}

function unitSquare(): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0), 3));
  geometry.setIndex([0, 1, 2, 1, 3, 2]);
  return geometry;
}
