import { bareProgram } from './bare-program.ts';

/** The floor of solids: triangles in one buffer and one draw call, flat, with depth and nothing else. */
export class BareTriangles {
  readonly #gl: WebGL2RenderingContext;
  readonly #view: WebGLUniformLocation;
  readonly #namesThem: WebGLUniformLocation;
  readonly #buffer: WebGLBuffer;
  #vertices = 0;

  constructor(
    private readonly widthPx: number,
    private readonly heightPx: number,
  ) {
    const canvas = Object.assign(document.createElement('canvas'), { width: widthPx, height: heightPx });
    const gl = canvas.getContext('webgl2', { antialias: false, preserveDrawingBuffer: true });
    if (!gl) throw new Error('bare triangles: no WebGL 2');
    this.#gl = gl;
    const program = bareProgram(
      gl,
      `#version 300 es
      uniform mat4 view; in vec3 place; flat out int number;
      void main() { number = gl_VertexID / 3 + 1; gl_Position = view * vec4(place, 1.0); }`,
      `#version 300 es
      precision highp float; precision highp int;
      uniform bool namesThem; flat in int number; out vec4 ink;
      void main() {
        ink = namesThem
          ? vec4(float(number & 255), float((number >> 8) & 255), float((number >> 16) & 255), 255.0) / 255.0
          : vec4(0.5, 0.5, 0.5, 1.0);
      }`,
    );
    this.#view = gl.getUniformLocation(program, 'view')!;
    this.#namesThem = gl.getUniformLocation(program, 'namesThem')!;
    this.#buffer = gl.createBuffer();
    gl.bindBuffer(gl.ARRAY_BUFFER, this.#buffer);
    gl.enable(gl.DEPTH_TEST);
    gl.clearColor(0, 0, 0, 1);
    gl.viewport(0, 0, widthPx, heightPx);
  }

  /** @param corners x, y, z of three corners a triangle */
  load(corners: Float32Array<ArrayBuffer>): void {
    const gl = this.#gl;
    gl.bufferData(gl.ARRAY_BUFFER, corners, gl.STATIC_DRAW);
    gl.vertexAttribPointer(0, 3, gl.FLOAT, false, 0, 0);
    this.#vertices = corners.length / 3;
  }

  /** Draws all of them and waits until a pixel can be read. @param view column-major 4 × 4 @returns ms */
  draw(view: Float32Array, namesThem = false): number {
    const gl = this.#gl;
    this.#readPixels(1, 1);
    const before = performance.now();
    gl.uniformMatrix4fv(this.#view, false, view);
    gl.uniform1i(this.#namesThem, namesThem ? 1 : 0);
    gl.clear(gl.COLOR_BUFFER_BIT | gl.DEPTH_BUFFER_BIT);
    gl.drawArrays(gl.TRIANGLES, 0, this.#vertices);
    this.#readPixels(1, 1);
    return performance.now() - before;
  }

  /** Which triangles own a pixel. */
  owners(view: Float32Array): Set<number> {
    this.draw(view, true);
    const pixels = this.#readPixels(this.widthPx, this.heightPx);
    const owners = new Set<number>();
    for (let i = 0; i < pixels.length; i += 4) {
      const number = pixels[i]! + 256 * pixels[i + 1]! + 65_536 * pixels[i + 2]!;
      if (number > 0) owners.add(number - 1);
    }
    return owners;
  }

  #readPixels(width: number, height: number): Uint8Array {
    const gl = this.#gl;
    const pixels = new Uint8Array(4 * width * height);
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
    return pixels;
  }
}
