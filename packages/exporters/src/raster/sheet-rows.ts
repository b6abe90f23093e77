import { drawSheet, type OnSheetProgress } from '../sheets/draw-sheet.ts';
import type { PrintedSet } from '../sheets/printed-set.ts';
import { CanvasSurface, type LoadedPictures, type PieceRect, type RasterFonts } from './canvas-surface.ts';

/** A picture in bands of whole rows, from the top. */
export interface PictureRows {
  readonly width: number;
  readonly height: number;
  /** Red, green, blue of each px, row by row. */
  readonly bands: () => Iterable<Uint8Array>;
}

/** Pieces are drawn one at a time, so large at most, px: what a band takes in memory doesn't grow with the paper. */
const [MOST_PIECE_PX, BAND_PX] = [8192, 8 * 1024 * 1024] as const;
/** Lines are that wide at most at the border of a piece, mm: what lies so far outside may reach in. */
const MARGIN_MM = 5;

/** How large the picture of a sheet is, px. */
export const sizePx = (sideMm: number, dpi: number): number => Math.max(Math.round((sideMm / 25.4) * dpi), 1);

/** A sheet as pixels, drawn piece by piece as it is asked for. */
export function sheetRows(
  set: PrintedSet,
  index: number,
  dpi: number,
  fonts: RasterFonts,
  pictures: LoadedPictures,
  onProgress?: OnSheetProgress,
): PictureRows {
  const { paper } = set.sheets[index]!;
  const [width, height] = [sizePx(paper.widthMm, dpi), sizePx(paper.heightMm, dpi)];
  const pxPerMm = dpi / 25.4;
  const rows = Math.max(Math.min(Math.floor(BAND_PX / width), MOST_PIECE_PX), 1);
  return {
    width,
    height,
    *bands() {
      const most = { width: Math.min(width, MOST_PIECE_PX), height: Math.min(height, rows) };
      const surface = new CanvasSurface(most, pxPerMm, fonts, pictures);
      for (let top = 0; top < height; top += rows) {
        const bandHeight = Math.min(rows, height - top);
        const band = new Uint8Array(3 * width * bandHeight);
        for (let left = 0; left < width; left += MOST_PIECE_PX) {
          const piece = { left, top, width: Math.min(MOST_PIECE_PX, width - left), height: bandHeight };
          surface.begin(piece);
          drawSheet(surface, set, index, onProgress, {
            leftMm: left / pxPerMm - MARGIN_MM,
            topMm: top / pxPerMm - MARGIN_MM,
            widthMm: piece.width / pxPerMm + 2 * MARGIN_MM,
            heightMm: piece.height / pxPerMm + 2 * MARGIN_MM,
          });
          copyColours(surface, piece, band, width);
        }
        yield band;
      }
    },
  };
}

/** Puts a piece into its band, without alpha: paper is opaque. */
function copyColours(
  { pixels, stride }: CanvasSurface,
  { left, width, height }: PieceRect,
  band: Uint8Array,
  bandWidth: number,
): void {
  for (let y = 0; y < height; y++) {
    let at = 3 * (y * bandWidth + left);
    for (let source = 4 * y * stride; source < 4 * (y * stride + width); source += 4) {
      band[at++] = pixels[source]!;
      band[at++] = pixels[source + 1]!;
      band[at++] = pixels[source + 2]!;
    }
  }
}
