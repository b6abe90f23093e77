import type { TilesetStyle } from '@gull-pane/protocol/tileset';
import { fillOnGround, inkOnGround } from '@gull-pane/core/drawing/colour';
import type { Colour } from '@gull-pane/core/drawing/model';
import type { TexelData } from './batch/texel-data';

/** Texels of one style: colour; width, dash period, number of dash ends; the ends of dashes and gaps along the period. */
export const TEXELS_PER_STYLE = 4;
export const STYLES_PER_ROW = 256;
/** Dashes and gaps that a pattern may have; what is beyond is left out. */
const MAX_DASH_ENDS = 8;

/** How every style of a drawing looks on a ground, as the shaders read it. Lengths in drawing units. */
export function makeStyleTexture(styles: readonly TilesetStyle[], ground: Colour): TexelData {
  const rows = Math.max(Math.ceil(styles.length / STYLES_PER_ROW), 1);
  const texels = new Float32Array(rows * STYLES_PER_ROW * TEXELS_PER_STYLE * 4);
  styles.forEach(({ kind, colour, width, dashes }, index) => {
    const at = index * TEXELS_PER_STYLE * 4;
    const [r, g, b, a] = colour;
    const ink = (kind === 'fill' ? fillOnGround : inkOnGround)({ r, g, b, a }, ground);
    texels.set([ink.r / 255, ink.g / 255, ink.b / 255, ink.a / 255], at);
    let reach = 0;
    const ends = dashes.slice(0, MAX_DASH_ENDS).map((length) => (reach += length));
    texels.set([width, reach, ends.length, 0, ...ends], at + 4);
  });
  return { width: STYLES_PER_ROW * TEXELS_PER_STYLE, height: rows, texels };
}
