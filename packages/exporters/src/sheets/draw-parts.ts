import { PathBuilder } from '@gull-pane/core/drawing/path';
import { inkOf, widthOf, type PaperPoint, type SheetPart } from '@gull-pane/core/sheets/sheet-part';
import type { PaperSurface } from './paper-surface.ts';

/** Draws what a sheet has beside its views, or what lies on top of one. */
export function drawParts(surface: PaperSurface, parts: readonly SheetPart[]): void {
  let layer: string | null = null;
  for (const part of parts) {
    if (part.layer !== layer) {
      if (layer !== null) surface.endLayer();
      surface.beginLayer((layer = part.layer));
    }
    drawPart(surface, part);
  }
  if (layer !== null) surface.endLayer();
}

const onPaper = (x: number, y: number): readonly [number, number] => [x, y];

function drawPart(surface: PaperSurface, part: SheetPart): void {
  const colour = { ...inkOf(part.ink), a: Math.round(255 * (part.opacity ?? 1)) };
  if (part.kind === 'link') surface.link(part.rect, part.leadsTo);
  else if (part.kind === 'text') {
    const { text, at, sizeMm, weight, isUpright, leadsTo } = part;
    const [xMm, yMm] = at;
    const angleRad = isUpright ? Math.PI / 2 : 0;
    surface.text({ text, xMm, yMm, sizeMm, angleRad, anchor: 'start', weight, colour });
    if (leadsTo === null) return;
    const width = widthOf(text, sizeMm, weight);
    const rect = isUpright
      ? { leftMm: xMm - sizeMm, topMm: yMm - width, widthMm: sizeMm, heightMm: width }
      : { leftMm: xMm, topMm: yMm - sizeMm, widthMm: width, heightMm: sizeMm };
    surface.link(rect, leadsTo);
  } else if (part.kind === 'area') surface.path(ringsOf(part.rings), onPaper, null, colour, 'evenodd');
  else {
    const { widthMm, dashesMm, isClosed, points } = part;
    surface.path(runOf(points, isClosed), onPaper, { colour, widthMm, dashesMm }, null, 'nonzero');
  }
}

function runOf(points: readonly PaperPoint[], isClosed: boolean, onto = new PathBuilder()): PathBuilder {
  points.forEach(([x, y], k) => (k === 0 ? onto.moveTo(x, y) : onto.lineTo(x, y)));
  return isClosed ? onto.close() : onto;
}

function ringsOf(rings: readonly (readonly PaperPoint[])[]): PathBuilder {
  const path = new PathBuilder();
  for (const ring of rings) runOf(ring, true, path);
  return path;
}
