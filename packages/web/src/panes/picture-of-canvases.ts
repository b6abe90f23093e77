import type { Viewport } from '@gull-pane/core/camera/camera';

/** What canvases show, as a small picture in a data address: their middle in the picture's shape. */
export function smallPicture(
  size: { readonly width: number; readonly height: number },
  ...canvases: readonly HTMLCanvasElement[]
): string {
  const [first] = canvases;
  if (!first || first.width === 0) return '';
  const small = document.createElement('canvas');
  Object.assign(small, size);
  const paper = small.getContext('2d');
  if (!paper) return '';
  const scale = Math.min(first.width / size.width, first.height / size.height);
  const [width, height] = [size.width * scale, size.height * scale];
  const [x, y] = [(first.width - width) / 2, (first.height - height) / 2];
  for (const canvas of canvases)
    if (canvas.width > 0) paper.drawImage(canvas, x, y, width, height, 0, 0, size.width, size.height);
  const picture = small.toDataURL('image/webp', 0.75);
  return picture.length < 40_000 ? picture : '';
}

/**
 * What canvases show over one another, all of it, on a sheet of another size.
 * @param ground fills what is left beside it
 * @returns null before anything was drawn
 */
export function wholePicture(
  { widthPx: width, heightPx: height }: Viewport,
  ground: string,
  canvases: readonly HTMLCanvasElement[],
): HTMLCanvasElement | null {
  const [first] = canvases;
  const sheet = document.createElement('canvas');
  Object.assign(sheet, { width, height });
  const paper = sheet.getContext('2d');
  if (!first || first.width === 0 || !paper) return null;
  paper.fillStyle = ground;
  paper.fillRect(0, 0, width, height);
  const scale = Math.min(width / first.width, height / first.height);
  const [wide, high] = [first.width * scale, first.height * scale];
  for (const canvas of canvases)
    if (canvas.width > 0) paper.drawImage(canvas, (width - wide) / 2, (height - high) / 2, wide, high);
  return sheet;
}
