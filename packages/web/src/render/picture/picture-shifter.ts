import {
  FramebufferTexture,
  GLSL3,
  Mesh,
  OrthographicCamera,
  PlaneGeometry,
  RawShaderMaterial,
  Scene,
  Vector2,
  type WebGLRenderer,
} from 'three';
import { panBy } from '@gull-pane/core/camera/pan';
import { sameCamera, screenToWorld, worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';

const vertexShader = /* glsl */ `
precision highp float;
in vec3 position;
uniform vec2 way;
out vec2 place;
void main() {
  gl_Position = vec4(position.xy, 0.0, 1.0);
  place = 0.5 + 0.5 * position.xy - way;
}`;
// a software renderer takes half as long for this as for fetching texels by number
const fragmentShader = /* glsl */ `
precision highp float;
uniform sampler2D picture;
in vec2 place;
out vec4 colour;
void main() { colour = texture(picture, place); }`;

/** A pan of a picture by whole pixels. */
export interface Shift {
  /** What the picture shows after it: within half a px of what is wanted. */
  readonly camera: Camera;
  /** Device px to the right and down. */
  readonly right: number;
  readonly down: number;
  /** What has come into sight. */
  readonly strips: readonly Strip[];
}

/** A part of the pane, with the view that it is of. CSS px from the pane's upper left corner. */
export interface Strip {
  readonly left: number;
  readonly top: number;
  readonly viewport: Viewport;
  readonly camera: Camera;
}

/** A pan that leaves less than this of the picture is no pan: all is drawn afresh. */
const LEAST_LEFT = 0.35;

/**
 * The shift that makes a picture of one view one of another.
 * @returns null if they differ by more than a pan
 */
export function shiftBetween(shown: Camera, wanted: Camera, viewport: Viewport, pixelRatio: number): Shift | null {
  if (!sameCamera({ ...shown, target: wanted.target }, wanted)) return null;
  const { widthPx, heightPx } = viewport;
  const at = worldToScreen(wanted, viewport, shown.target);
  const right = Math.round((at.x - widthPx / 2) * pixelRatio);
  const down = Math.round((at.y - heightPx / 2) * pixelRatio);
  const [across, along] = [Math.abs(right) / pixelRatio, Math.abs(down) / pixelRatio];
  if (!((1 - across / widthPx) * (1 - along / heightPx) >= LEAST_LEFT) || across >= widthPx || along >= heightPx)
    return null;
  const camera = panBy(shown, right / pixelRatio, down / pixelRatio);
  const strip = (left: number, top: number, width: number, height: number): Strip => ({
    left,
    top,
    viewport: { widthPx: width, heightPx: height },
    camera: { ...camera, target: screenToWorld(camera, viewport, { x: left + width / 2, y: top + height / 2 }) },
  });
  const strips: Strip[] = [];
  if (right !== 0) strips.push(strip(right > 0 ? 0 : widthPx - across, 0, across, heightPx));
  if (down !== 0) {
    const left = right > 0 ? across : 0; // what the other strip has needn't be drawn twice
    strips.push(strip(left, down > 0 ? 0 : heightPx - along, widthPx - across, along));
  }
  return { camera, right, down, strips };
}

/** Moves the picture that is on the canvas by whole pixels, so that only what comes into sight need be drawn. */
export class PictureShifter {
  readonly #scene = new Scene();
  readonly #camera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  readonly #material = new RawShaderMaterial({
    glslVersion: GLSL3,
    vertexShader,
    fragmentShader,
    depthTest: false,
    depthWrite: false,
    uniforms: { picture: { value: null }, way: { value: new Vector2() } },
  });
  #kept: FramebufferTexture | null = null;

  constructor(private readonly renderer: WebGLRenderer) {
    const plane = new Mesh(new PlaneGeometry(2, 2), this.#material);
    plane.frustumCulled = false;
    this.#scene.add(plane);
  }

  /** The depth of what is moved is lost. */
  apply({ right, down }: Shift): void {
    const { renderer } = this;
    const { width, height } = renderer.domElement;
    if (this.#kept?.image.width !== width || this.#kept.image.height !== height) {
      this.#kept?.dispose();
      this.#kept = new FramebufferTexture(width, height);
    }
    renderer.setRenderTarget(null);
    renderer.copyFramebufferToTexture(this.#kept);
    this.#material.uniforms.picture!.value = this.#kept;
    (this.#material.uniforms.way!.value as Vector2).set(right / width, -down / height);
    renderer.render(this.#scene, this.#camera);
    renderer.clear(false, true, false);
  }

  dispose(): void {
    this.#kept?.dispose();
    this.#material.dispose();
  }
}
