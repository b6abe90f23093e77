import { bareProgram } from './bare-program.ts';

/** The floor: every line of a drawing in one buffer and one draw call, with nothing around it. */
export class BareLines {
  readonly #gl: WebGL2RenderingContext;
  readonly #view: WebGLUniformLocation;
  #count = 0;

  constructor(canvas: HTMLCanvasElement) {
    const gl = canvas.getContext('webgl2', { antialias: false, preserveDrawingBuffer: true });
    if (!gl) throw new Error('bare lines: no WebGL 2');
    this.#gl = gl;
    const program = bareProgram(
      gl,
      `#version 300 es
      uniform vec4 view; in vec2 place;
      void main() { gl_Position = vec4((place - view.xy) * view.zw, 0.0, 1.0); }`,
      `#version 300 es
      precision mediump float; out vec4 ink;
      void main() { ink = vec4(0.0, 0.0, 0.0, 1.0); }`,
    );
    this.#view = gl.getUniformLocation(program, 'view')!;
    gl.clearColor(1, 1, 1, 1);
  }

  /** @param ends x0, y0, x1, y1 of each line, relative to the anchor of later views */
  load(ends: Float32Array<ArrayBuffer>): void {
    const gl = this.#gl;
    gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
    gl.bufferData(gl.ARRAY_BUFFER, ends, gl.STATIC_DRAW);
    gl.vertexAttribPointer(0, 2, gl.FLOAT, false, 0, 0);
    this.#count = ends.length / 2;
  }

  /** Draws all of them and waits until a pixel can be read. @param x, y middle of the view relative to the anchor */
  draw(x: number, y: number, unitsPerPx: number, width: number, height: number): void {
    const gl = this.#gl;
    gl.viewport(0, 0, width, height);
    gl.uniform4f(this.#view, x, y, 2 / (unitsPerPx * width), 2 / (unitsPerPx * height));
    gl.clear(gl.COLOR_BUFFER_BIT);
    gl.drawArrays(gl.LINES, 0, this.#count);
    this.readPixel();
  }

  readPixel(): void {
    const gl = this.#gl;
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
  }

  get context(): WebGL2RenderingContext {
    return this.#gl;
  }
}
