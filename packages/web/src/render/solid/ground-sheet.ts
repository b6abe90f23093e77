import { CanvasTexture, GLSL3, Mesh, PlaneGeometry, RawShaderMaterial, Vector3 } from 'three';
import { planCamera, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { groundSeen, type GroundPart } from '@gull-pane/core/camera/ground-seen';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { Scene } from '../scene/scene';
import { OffScreenPicture } from '../off-screen-picture';
import { allKinds } from '@gull-pane/core/view/shown';
import { type Underlay } from '../picture/pane-view';

/** The longer side of the plan's picture, px. */
const MOST_PX = 2048;
/** A picture that is so much coarser, or finer, than wanted is made anew. */
const SLACK = 1.35;

const vertex = /* glsl */ `
precision highp float;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
in vec3 position;
in vec2 uv;
out vec2 place;
void main() {
  place = uv;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`;
// only ink lies on the ground, not the paper
const fragment = /* glsl */ `
precision highp float;
uniform sampler2D sheet;
uniform vec3 ground;
in vec2 place;
out vec4 colour;
void main() {
  vec3 ink = texture(sheet, place).rgb;
  float alpha = clamp(3.5 * distance(ink, ground), 0.0, 1.0);
  if (alpha < 0.02) discard;
  colour = vec4(ink, alpha);
}`;

/** A plan that lies on the ground of a model: a picture of the part that is seen, made when the view comes to rest. */
export class GroundSheet implements Underlay {
  readonly #picture: OffScreenPicture;
  readonly #material: RawShaderMaterial;
  readonly #mesh: Mesh;
  #texture: CanvasTexture | null = null;
  #made: (GroundPart & { readonly unitsPerPx: number; readonly isWhole: boolean }) | null = null;

  /** @param hidden ids of layers that don't show */
  constructor(
    id: string,
    private readonly scene: Scene,
    private readonly extents: GroundPart,
    private readonly hidden: ReadonlySet<number>,
  ) {
    this.#picture = new OffScreenPicture(`${id}/ground`, scene, 'shared');
    this.#material = new RawShaderMaterial({
      glslVersion: GLSL3,
      vertexShader: vertex,
      fragmentShader: fragment,
      uniforms: { sheet: { value: null }, ground: { value: new Vector3() } },
      transparent: true,
      depthWrite: false,
      side: 2,
      // what stands on the ground covers what is drawn there
      polygonOffset: true,
      polygonOffsetFactor: 2,
      polygonOffsetUnits: 8,
    });
    this.#mesh = new Mesh(new PlaneGeometry(1, 1), this.#material);
    this.#mesh.frustumCulled = this.#mesh.matrixAutoUpdate = this.#mesh.matrixWorldAutoUpdate = false;
  }

  /** Whether all of the plan's tiles that its picture wants have come. */
  get isWhole(): boolean {
    return this.#made === null || this.#made.isWhole;
  }

  /** Makes the picture for a view, unless the one that is there does. */
  update(camera: Camera, viewport: Viewport, ground: Colour): void {
    const part = groundSeen(camera, viewport, this.extents);
    if (!part) return;
    const [width, height] = [part.maxX - part.minX, part.maxY - part.minY];
    const unitsPerPx = Math.max(camera.unitsPerPx, width / MOST_PX, height / MOST_PX);
    const made = this.#made;
    if (made?.isWhole) {
      const holds =
        made.minX <= part.minX && made.minY <= part.minY && made.maxX >= part.maxX && made.maxY >= part.maxY;
      if (holds && made.unitsPerPx <= unitsPerPx * SLACK) return;
    }
    const own = { widthPx: Math.ceil(width / unitsPerPx), heightPx: Math.ceil(height / unitsPerPx) };
    const middle = { x: (part.minX + part.maxX) / 2, y: (part.minY + part.maxY) / 2, z: 0 };
    const sheet = this.#picture.drawNow({
      camera: planCamera(middle, unitsPerPx),
      viewport: own,
      hiddenLayers: this.hidden,
      kinds: allKinds,
      look: 'lines',
      clips: [],
      smoothEdges: false,
      sheet: null,
    });
    this.#texture?.dispose();
    this.#texture = new CanvasTexture(sheet);
    this.#texture.anisotropy = 8;
    this.#material.uniforms.sheet!.value = this.#texture;
    (this.#material.uniforms.ground!.value as Vector3).set(ground.r / 255, ground.g / 255, ground.b / 255);
    const [w, h] = [own.widthPx * unitsPerPx, own.heightPx * unitsPerPx];
    this.#made = {
      minX: middle.x - w / 2,
      minY: middle.y - h / 2,
      maxX: middle.x + w / 2,
      maxY: middle.y + h / 2,
      unitsPerPx,
      isWhole: this.#picture.pendingTiles === 0,
    };
  }

  /** The box of the part that is pictured. */
  get box(): { readonly centre: Vec3; readonly halfSize: Vec3 } | null {
    if (!this.#made) return null;
    const { minX, minY, maxX, maxY } = this.#made;
    return {
      centre: { x: (minX + maxX) / 2, y: (minY + maxY) / 2, z: 0 },
      halfSize: { x: (maxX - minX) / 2, y: (maxY - minY) / 2, z: 0 },
    };
  }

  /** The plan where it lies, about an origin; null while there is no picture of it. */
  placed(origin: Vec3): Mesh | null {
    if (!this.#made) return null;
    const { minX, minY, maxX, maxY } = this.#made;
    this.#mesh.matrixWorld
      .makeScale(maxX - minX, maxY - minY, 1)
      .setPosition((minX + maxX) / 2 - origin.x, (minY + maxY) / 2 - origin.y, -origin.z);
    return this.#mesh;
  }

  dispose(): void {
    this.#picture.dispose();
    this.#texture?.dispose();
    this.#material.dispose();
    this.#mesh.geometry.dispose();
    this.scene.dispose();
  }
}
