import type { Style } from '@gull-pane/core/drawing/model';
import { colourFromHex } from '@gull-pane/core/drawing/colour';
import type { PaperRect } from '@gull-pane/core/sheets/sheet';
import type { ExportedObject, ExportedPicture } from '../exported.ts';
import type { PaperSurface, Pen } from './paper-surface.ts';
import type { FrameContent } from './printed-set.ts';

/** Lines without a width of their own, and the thinnest of others, mm on paper: pens of ISO 128-2 begin at 0.13. */
const [HAIR_MM, THINNEST_MM] = [0.13, 0.05] as const;

/**
 * Draws what a frame shows, cut at its border: lines in their true widths, layers that can be hidden, texts as texts.
 * @param within what is needed of it, mm on the sheet
 * @param onObject is called for each object
 */
export function drawFrame(
  surface: PaperSurface,
  frame: PaperRect,
  content: FrameContent,
  within: PaperRect,
  onObject: () => void,
): void {
  surface.cut(frame);
  let layer = -1;
  for (const object of content.objects(within)) {
    if (object.layer !== layer) {
      // layers are identified by name: two with the same name become one layer
      if (layer >= 0) surface.endLayer();
      layer = object.layer;
      surface.beginLayer(content.layers[layer]?.name ?? 'Drawing');
    }
    drawObject(surface, object, content);
    onObject();
  }
  if (layer >= 0) surface.endLayer();
  surface.uncut();
}

function drawObject(surface: PaperSurface, object: ExportedObject, content: FrameContent): void {
  const { toPaper, mmPerUnit, turnRad } = content;
  const { layer, path, text, line, fill, fillRule, picture } = object;
  if (picture) drawPicture(surface, picture, content);
  else if (text) {
    const { colour } = line ?? fill ?? plainStyle(layer, content);
    const [xMm, yMm] = toPaper(text.x, text.y);
    const { anchor, weight } = text;
    const angleRad = text.angleRad + turnRad;
    surface.text({ text: text.text, xMm, yMm, sizeMm: text.size * mmPerUnit, angleRad, anchor, weight, colour });
  } else if (path) {
    const style = line ?? (fill ? null : plainStyle(layer, content));
    surface.path(path, toPaper, style && penOf(style, mmPerUnit), fill?.colour ?? null, fillRule);
  }
}

function penOf({ colour, width, dashes }: Style, mmPerUnit: number): Pen {
  const widthMm = width > 0 ? Math.max(width * mmPerUnit, THINNEST_MM) : HAIR_MM;
  return { colour, widthMm, dashesMm: dashes.map((length) => length * mmPerUnit) };
}

function plainStyle(layer: number, { layers }: FrameContent): Style {
  return { kind: 'line', layer, colour: colourFromHex(layers[layer]?.colour ?? '#000000'), width: 0, dashes: [] };
}

function drawPicture(
  surface: PaperSurface,
  { place, clip, opacity, href }: ExportedPicture,
  { toPaper }: FrameContent,
): void {
  const ring =
    clip &&
    ([
      [clip[0], clip[1]],
      [clip[2], clip[1]],
      [clip[2], clip[3]],
      [clip[0], clip[3]],
    ] as const);
  surface.picture({
    corners: [
      toPaper(place.e, place.f),
      toPaper(place.e + place.a, place.f + place.b),
      toPaper(place.e + place.c, place.f + place.d),
    ],
    clip: ring && ring.map(([x, y]) => toPaper(x, y)),
    opacity,
    href: href(),
  });
}
