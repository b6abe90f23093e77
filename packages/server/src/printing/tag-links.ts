import { textFrame } from '@gull-pane/core/drawing/letter-advance';
import type { TextMark } from '@gull-pane/core/drawing/model';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import { placementOf, type PaperRect } from '@gull-pane/core/sheets/sheet';
import type { SheetPart } from '@gull-pane/core/sheets/sheet-part';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { PaperSheetDto } from '@gull-pane/protocol/sheet-sets';
import { readStore } from '../pyramid/read-store.ts';

/** Where a text of the drawing stands on a sheet. */
interface Shown {
  readonly sheet: number;
  readonly frame: number;
  readonly denominator: number;
  readonly rect: PaperRect;
}

/**
 * Links from texts to other sheets of a set: a tag leads to the sheet that shows it largest, the name of a sheet to that
 * sheet.
 * @param folder of a plan's content
 * @returns links by sheet and frame
 */
export function tagLinks(
  folder: string,
  { unit, counts }: DrawingDto,
  layers: readonly LayerDto[],
  sheets: readonly PaperSheetDto[],
): (sheet: number, frame: number) => readonly SheetPart[] {
  if (sheets.length < 2) return () => [];
  const frames = sheets.flatMap((sheet, at) =>
    sheet.frames.map((frame, k) => ({
      sheet: at,
      frame: k,
      rect: frame,
      denominator: frame.view.denominator,
      placement: placementOf(frame, unit),
      hiddenLayers: new Set(layers.filter(({ name }) => frame.shows.hiddenLayers.includes(name)).map(({ id }) => id)),
      hidden: new Set(numbersOfRanges(frame.shows.hiddenObjects, counts.objects)),
      hasTexts: !frame.shows.kindsOff.includes('texts'),
    })),
  );
  const byName = new Map(sheets.map(({ name }, at) => [name.trim(), at] as const));
  const links = new Map<string, SheetPart[]>();
  const add = ({ sheet, frame, rect }: Shown, leadsTo: number): void => {
    const key = `${sheet} ${frame}`;
    const part: SheetPart = { layer: 'Sheet', ink: 'ink', kind: 'link', rect, leadsTo };
    const known = links.get(key);
    if (known) known.push(part);
    else links.set(key, [part]);
  };
  for (const { id, layer, text } of readStore(folder)) {
    if (!text) continue;
    const shown: Shown[] = [];
    for (const { sheet, frame, rect, denominator, placement, hiddenLayers, hidden, hasTexts } of frames) {
      if (!hasTexts || hiddenLayers.has(layer) || hidden.has(id)) continue;
      const own = rectOnPaper(text, placement.toPaper);
      const [x, y] = [own.leftMm + own.widthMm / 2, own.topMm + own.heightMm / 2];
      const isIn =
        x >= rect.leftMm && x <= rect.leftMm + rect.widthMm && y >= rect.topMm && y <= rect.topMm + rect.heightMm;
      if (isIn) shown.push({ sheet, frame, denominator, rect: own });
    }
    const named = byName.get(text.text.trim());
    const largest = shown.reduce<Shown | null>(
      (best, one) => (best && best.denominator <= one.denominator ? best : one),
      null,
    );
    for (const one of shown) {
      if (named !== undefined && named !== one.sheet) add(one, named);
      else if (largest && largest.sheet !== one.sheet && largest.denominator < one.denominator) add(one, largest.sheet);
    }
  }
  return (sheet, frame) => links.get(`${sheet} ${frame}`) ?? [];
}

function rectOnPaper(text: TextMark, toPaper: (x: number, y: number) => readonly [number, number]): PaperRect {
  const frame = textFrame(text);
  const corners = Array.from({ length: frame.length / 2 }, (_, i) => toPaper(frame[2 * i]!, frame[2 * i + 1]!));
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const [leftMm, topMm] = [Math.min(...xs), Math.min(...ys)];
  return { leftMm, topMm, widthMm: Math.max(...xs) - leftMm, heightMm: Math.max(...ys) - topMm };
}
