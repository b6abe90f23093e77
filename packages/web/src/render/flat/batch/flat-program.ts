import { shadersOf, type ShaderParts } from './flat-shaders';

/** Where the attributes of every program are. */
export const ATTRIBUTES = { place: 0, mark: 1, along: 2, aside: 3 } as const;
/** Texture units. */
export const UNITS = { styles: 0, origins: 1, hiddenObjects: 2 } as const;

/** What all programs are given before they draw a picture. */
export interface FrameUniforms {
  /** Middle of the view from the anchor of the origins, x and y, then what single precision leaves out of them. */
  readonly middle: readonly [number, number, number, number];
  /** What a drawing unit to the east, then to the north, comes to in the frame that runs from −1 to 1. */
  readonly axes: readonly [number, number, number, number];
  /** Of the view, in that frame. */
  readonly shift: readonly [number, number];
  /** Drawing units a device px. */
  readonly unitsPerPx: number;
  /** From one place in the order of painting to the next. */
  readonly depthStep: number;
  readonly lineStyles: boolean;
  readonly transparency: boolean;
}

const names = ['middle', 'axes', 'shift', 'unitsPerPx', 'depthStep', 'lineStyles', 'transparency'] as const;

type Places = Readonly<Record<(typeof names)[number], WebGLUniformLocation | null>>;

/** A program that draws one kind of lines or areas. */
export class FlatProgram {
  readonly #program: WebGLProgram;
  readonly #places: Places;

  /** @throws Error with the compiler's words if the shaders don't compile */
  constructor(
    private readonly gl: WebGL2RenderingContext,
    parts: ShaderParts,
  ) {
    const program = gl.createProgram();
    const [vertex, fragment] = shadersOf(parts);
    for (const [type, source] of [
      [gl.VERTEX_SHADER, vertex],
      [gl.FRAGMENT_SHADER, fragment],
    ] as const) {
      const shader = gl.createShader(type)!;
      gl.shaderSource(shader, source);
      gl.compileShader(shader);
      gl.attachShader(program, shader);
      gl.deleteShader(shader);
    }
    for (const [name, place] of Object.entries(ATTRIBUTES)) gl.bindAttribLocation(program, place, name);
    gl.linkProgram(program);
    if (!gl.getProgramParameter(program, gl.LINK_STATUS) && !gl.isContextLost()) {
      const words = gl.getAttachedShaders(program)?.map((shader) => gl.getShaderInfoLog(shader)) ?? [];
      throw new Error(`flat program: ${[gl.getProgramInfoLog(program), ...words].join('\n')}`);
    }
    this.#program = program;
    const place = (name: string): WebGLUniformLocation | null => gl.getUniformLocation(program, name);
    this.#places = Object.fromEntries(names.map((name) => [name, place(name)])) as Places;
    gl.useProgram(program);
    for (const [name, unit] of Object.entries(UNITS)) gl.uniform1i(place(name), unit);
  }

  use(frame: FrameUniforms): void {
    const { gl } = this;
    const places = this.#places;
    gl.useProgram(this.#program);
    gl.uniform4f(places.middle, ...frame.middle);
    gl.uniform4f(places.axes, ...frame.axes);
    gl.uniform2f(places.shift, ...frame.shift);
    gl.uniform1f(places.unitsPerPx, frame.unitsPerPx);
    gl.uniform1f(places.depthStep, frame.depthStep);
    gl.uniform1f(places.lineStyles, frame.lineStyles ? 1 : 0);
    gl.uniform1f(places.transparency, frame.transparency ? 1 : 0);
  }

  dispose(): void {
    this.gl.deleteProgram(this.#program);
  }
}
