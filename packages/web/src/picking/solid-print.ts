import { worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { ContentPrint } from '@gull-pane/core/pick/content-print';
import type { SolidTable } from '@gull-pane/protocol/solid-table';

/** What lies in the frame of a solid's view, as one number: the objects whose boxes are seen there, by their names. */
export function printOfSolid(
  { boxes, names, layers, triangles, points }: SolidTable,
  layerNames: readonly string[],
  camera: Camera,
  viewport: Viewport,
): string {
  const print = new ContentPrint();
  for (let object = 0; object < names.length; object++) {
    const box = boxes.slice(6 * object, 6 * object + 6);
    const corners = Array.from({ length: 8 }, (_, k) => ({
      x: box[k & 1 ? 3 : 0]!,
      y: box[k & 2 ? 4 : 1]!,
      z: box[k & 4 ? 5 : 2]!,
    }));
    const seen = corners.map((corner) => worldToScreen(camera, viewport, corner)).filter(({ x }) => !Number.isNaN(x));
    if (seen.length === 0) continue;
    const [xs, ys] = [seen.map(({ x }) => x), seen.map(({ y }) => y)];
    const isOut =
      Math.max(...xs) < 0 ||
      Math.min(...xs) > viewport.widthPx ||
      Math.max(...ys) < 0 ||
      Math.min(...ys) > viewport.heightPx;
    if (!isOut)
      print.add(
        [...box, triangles[object]! + (points?.[object] ?? 0)],
        `${names[object]} / ${layerNames[layers[object]!] ?? ''}`,
      );
  }
  return String(print);
}
