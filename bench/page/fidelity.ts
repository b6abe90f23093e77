const BLOCK = 16;
/** A block is off when its ink differs by more than this share. */
const TOLERATED = 0.1;

/** Ink of each block of 16 × 16 px: how much darker than white. */
export function inkOf(gl: WebGL2RenderingContext, width: number, height: number): Float64Array {
  const pixels = new Uint8Array(4 * width * height);
  gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
  const columns = Math.ceil(width / BLOCK);
  const ink = new Float64Array(columns * Math.ceil(height / BLOCK));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      ink[Math.floor(y / BLOCK) * columns + Math.floor(x / BLOCK)]! += 255 - pixels[4 * (y * width + x)]!;
    }
  }
  return ink;
}

/** Share of the blocks whose ink is off; blocks blank in both are left out. */
export function fidelity(ours: Float64Array, bare: Float64Array): number {
  let off = 0;
  let all = 0;
  for (let i = 0; i < bare.length; i++) {
    if (ours[i] === 0 && bare[i] === 0) continue;
    all++;
    if (Math.abs(ours[i]! - bare[i]!) > TOLERATED * bare[i]!) off++;
  }
  return off / all;
}
