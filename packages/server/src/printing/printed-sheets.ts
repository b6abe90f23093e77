import { legendRows } from '@gull-pane/core/sheets/legend';
import { sheetParts, type SheetSetContent } from '@gull-pane/core/sheets/sheet-parts';
import type { FrameContent, PrintedSet } from '@gull-pane/exporters/sheets/printed-set';
import type { LayerDto } from '@gull-pane/protocol/drawings';
import type { PrintDto } from '@gull-pane/protocol/sheet-sets';
import { FrameOverlays, type OverlaySources } from './frame-overlay.ts';
import { modelFrame } from './model-frame.ts';
import { planFrame } from './plan-frame.ts';
import { PrintablePictures } from './printable-pictures.ts';
import { tagLinks } from './tag-links.ts';

/** So many frames are kept as they were made: pieces of one sheet ask for them again. */
const MOST_KEPT = 4;

/** Sheets with what their frames show, read frame by frame. @param isAskedOften for formats that are drawn piece by piece */
export async function printedSheets(
  sources: OverlaySources & { readonly layers: readonly LayerDto[] },
  { fields, sheets }: PrintDto,
  isAskedOften: boolean,
): Promise<PrintedSet> {
  const { folder, drawing, layers, marks } = sources;
  const overlays = new FrameOverlays(sources);
  const isPlan = drawing.kind === 'flat';
  const links = isPlan ? tagLinks(folder, drawing, layers, sheets) : () => [];
  const readsOften = isAskedOften || sheets.reduce((sum, { frames }) => sum + frames.length, 0) > 1;
  const plan = isPlan && {
    folder,
    drawing,
    layers,
    pictures: await PrintablePictures.of(folder),
    boxes: readsOften ? overlays.boxes : null,
  };
  const kept = new Map<string, FrameContent>();
  const contentIn = (sheet: number, frame: number): FrameContent => {
    const key = `${sheet} ${frame}`;
    const known = kept.get(key);
    if (known) return known;
    const own = sheets[sheet]!.frames[frame]!;
    const onTop = [...overlays.of(own), ...links(sheet, frame)];
    const made = plan ? planFrame(plan, own, onTop) : modelFrame({ folder, drawing, layers }, own, onTop);
    const [oldest] = kept.keys();
    if (kept.size >= MOST_KEPT && oldest !== undefined) kept.delete(oldest);
    kept.set(key, made);
    return made;
  };
  const holding = layers.filter(({ support }) => support.length > 0);
  const content: SheetSetContent = {
    sheets,
    fields,
    unit: drawing.unit,
    legendOf: (sheet) =>
      legendRows(
        sheets[sheet]!.frames.map(({ shows }) => shows),
        holding,
        marks,
      ),
  };
  return { unit: drawing.unit, fields, sheets, contentIn, partsOf: (sheet) => sheetParts(content, sheet) };
}
