/** What a picture asks of the graphics processor. */
export interface GlCalls {
  readonly draws: number;
  /** Numbers that are sent for buffers and textures. */
  readonly uploads: number;
  readonly programs: number;
}

const kinds = {
  draws: /^(draw|multiDraw)/,
  uploads: /^(buffer(Sub)?Data|tex(Sub)?Image[23]D)$/,
  programs: /^useProgram$/,
} as const;

/** Counts the calls that something makes. */
export function callsOf(gl: WebGL2RenderingContext, run: () => void): GlCalls {
  const counts = { draws: 0, uploads: 0, programs: 0 };
  const counted: string[] = [];
  const multiDraw = gl.getExtension('WEBGL_multi_draw') as object | null;
  for (const owner of [gl, multiDraw ?? {}] as Record<string, unknown>[])
    for (const name in owner) {
      const kind = (Object.keys(kinds) as (keyof typeof kinds)[]).find((key) => kinds[key].test(name));
      const call = owner[name];
      if (!kind || typeof call !== 'function') continue;
      owner[name] = (...given: unknown[]): unknown => {
        if (kind !== 'uploads' || !isEmpty(name, given)) counts[kind]++;
        return (call as (...given: unknown[]) => unknown).apply(owner, given);
      };
      counted.push(name);
    }
  try {
    run();
  } finally {
    for (const owner of [gl, multiDraw ?? {}] as Record<string, unknown>[])
      for (const name of counted) Reflect.deleteProperty(owner, name);
  }
  return counts;
}

/** Whether a call only makes room: no numbers are sent. */
const isEmpty = (name: string, given: readonly unknown[]): boolean =>
  name === 'bufferData' ? typeof given[1] === 'number' : name.startsWith('tex') && given.at(-1) === null;
