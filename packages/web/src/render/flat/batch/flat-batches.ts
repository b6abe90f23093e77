import type { WebGLRenderer } from 'three';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { BlockStore, nearestTexture } from './block-store';
import type { DrawLists, FlatKind } from './draw-lists';
import { FlatProgram, UNITS, type FrameUniforms } from './flat-program';
import { IndexStream } from './index-stream';
import type { TexelData } from './texel-data';

/** What a picture draws with. */
export interface FlatFrame extends FrameUniforms {
  readonly styles: TexelData;
  /** Null if nothing is hidden. */
  readonly hiddenObjects: TexelData | null;
}

/** What a graphics processor holds. */
interface Held {
  readonly store: BlockStore;
  readonly indices: IndexStream;
  readonly programs: Map<string, FlatProgram>;
  /** By unit. */
  readonly textures: Map<number, { readonly data: TexelData; readonly texture: WebGLTexture }>;
}

/** Draws flat drawings on one graphics processor: a call for each kind of lines and areas, however many tiles there are. */
export class FlatBatches {
  readonly #gl: WebGL2RenderingContext;
  #held: Held;

  /** @param anchor a place in the drawing */
  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly anchor: Vec3,
  ) {
    this.#gl = renderer.getContext() as WebGL2RenderingContext;
    this.#held = this.#hold();
    renderer.domElement.addEventListener('webglcontextrestored', this.#begin);
  }

  /** Draws to where the renderer draws. Its target must be set anew afterwards. */
  draw(lists: DrawLists, frame: FlatFrame): void {
    const gl = this.#gl;
    const { store, indices } = this.#held;
    store.bind();
    const stretches = indices.load(lists, (block) => store.firstVertexOf(block));
    store.useOrigins();
    this.#useTexture(UNITS.styles, frame.styles);
    if (frame.hiddenObjects) this.#useTexture(UNITS.hiddenObjects, frame.hiddenObjects);
    gl.disable(gl.CULL_FACE);
    gl.enable(gl.DEPTH_TEST);
    gl.depthFunc(gl.LEQUAL);
    gl.depthMask(true);
    gl.enable(gl.BLEND);
    gl.blendEquation(gl.FUNC_ADD);
    gl.blendFuncSeparate(gl.SRC_ALPHA, gl.ONE_MINUS_SRC_ALPHA, gl.ONE, gl.ONE_MINUS_SRC_ALPHA);
    for (const { kind, start, count } of stretches) {
      this.#program(kind, frame.hiddenObjects !== null).use(frame);
      gl.drawElements(isLines[kind] ? gl.LINES : gl.TRIANGLES, count, gl.UNSIGNED_INT, 4 * start);
    }
    this.#leaveState();
  }

  dispose(): void {
    this.renderer.domElement.removeEventListener('webglcontextrestored', this.#begin);
    const { store, indices, programs, textures } = this.#held;
    store.dispose();
    indices.dispose();
    for (const program of programs.values()) program.dispose();
    for (const { texture } of textures.values()) this.#gl.deleteTexture(texture);
    this.#leaveState();
  }

  /** The graphics processor has lost everything. */
  readonly #begin = (): void => {
    this.#held.store.dispose();
    this.#held = this.#hold();
  };

  #hold(): Held {
    const gl = this.#gl;
    const store = new BlockStore(gl, this.anchor);
    const indices = new IndexStream(gl);
    this.#leaveState();
    return { store, indices, programs: new Map(), textures: new Map() };
  }

  #program(kind: FlatKind, hidesObjects: boolean): FlatProgram {
    const key = `${kind} ${hidesObjects}`;
    const { programs } = this.#held;
    let program = programs.get(key);
    if (!program) {
      const isDashed = kind === 'dashedHairline' || kind === 'dashedStroke';
      const hasWidth = kind === 'stroke' || kind === 'dashedStroke';
      program = new FlatProgram(this.#gl, { hasWidth, isHairline: isLines[kind], isDashed, hidesObjects });
      programs.set(key, program);
    }
    return program;
  }

  #useTexture(unit: number, data: TexelData): void {
    const gl = this.#gl;
    const { textures } = this.#held;
    const known = textures.get(unit);
    if (known?.data === data) {
      gl.activeTexture(gl.TEXTURE0 + unit);
      gl.bindTexture(gl.TEXTURE_2D, known.texture);
      return;
    }
    if (known) gl.deleteTexture(known.texture);
    const texture = nearestTexture(gl, unit);
    const { width, height, texels } = data;
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
    gl.pixelStorei(gl.UNPACK_FLIP_Y_WEBGL, false);
    gl.pixelStorei(gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL, false);
    if (texels instanceof Uint32Array)
      gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32UI, width, height, 0, gl.RGBA_INTEGER, gl.UNSIGNED_INT, texels);
    else gl.texImage2D(gl.TEXTURE_2D, 0, gl.R8, width, height, 0, gl.RED, gl.UNSIGNED_BYTE, texels);
    textures.set(unit, { data, texture });
  }

  /** The renderer finds everything as it expects it. */
  #leaveState(): void {
    this.#gl.bindVertexArray(null);
    this.renderer.resetState();
  }
}

const isLines: Record<FlatKind, boolean> = {
  fill: false,
  hairline: true,
  dashedHairline: true,
  stroke: false,
  dashedStroke: false,
};
