import type { TilesetStyle } from '@gull-pane/protocol/tileset';
import { fillOnGround, inkOnGround } from '@gull-pane/core/drawing/colour';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { TexelData } from './batch/texel-data';

/** Texels of one style: colour, width, dash period and number of dash ends; the ends of dashes and gaps along the period. */
export const TEXELS_PER_STYLE_BITS = 2;
export const STYLES_PER_ROW_BITS = 8;
/** Dashes and gaps that a pattern may have; what is beyond is left out. */
const MAX_DASH_ENDS = 8;

/**
 * How every style of a drawing looks on a ground, as the shaders read it. Lengths in drawing units; the bits of numbers in
 * single precision, so that a colour fits beside them.
 */
export function makeStyleTexture(styles: readonly TilesetStyle[], ground: Colour): TexelData {
  const perRow = 1 << STYLES_PER_ROW_BITS;
  const width = perRow << TEXELS_PER_STYLE_BITS;
  const rows = Math.max(Math.ceil(styles.length / perRow), 1);
  const texels = new Uint32Array(4 * rows * width);
  const lengths = new Float32Array(texels.buffer);
  const colours = new Uint8ClampedArray(texels.buffer);
  styles.forEach(({ kind, colour, width: lineWidth, dashes }, index) => {
    const at = 4 * (index << TEXELS_PER_STYLE_BITS);
    const [r, g, b, a] = colour;
    const ink = (kind === 'fill' ? fillOnGround : inkOnGround)({ r, g, b, a }, ground);
    colours.set([ink.r, ink.g, ink.b, ink.a], 4 * at);
    let reach = 0;
    const ends = dashes.slice(0, MAX_DASH_ENDS).map((length) => (reach += length));
    lengths.set([lineWidth, reach], at + 1);
    texels[at + 3] = ends.length;
    lengths.set(ends, at + 4);
  });
  return { width, height: rows, texels };
}
