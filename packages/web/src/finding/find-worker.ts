/** Finds texts of the drawing off the page's thread; the index is made with the first question. */
import { ContentPrint } from '@gull-pane/core/pick/content-print';
import { TextIndex, type TextHit } from '@gull-pane/core/find/text-index';
import type { TextColumns } from '@gull-pane/protocol/texts';

/** One place where a text stands. Drawing units. */
export interface TextPlace {
  readonly object: number;
  readonly layer: number;
  /** Lower left corner of the letters' frame along the baseline. */
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly width: number;
  readonly angleRad: number;
}

export interface FoundText {
  readonly content: string;
  readonly count: number;
  readonly places: readonly TextPlace[];
}

export interface ToFindWorker {
  readonly id: number;
  /** Asks for the text that stands out most about a place, instead of one by its words. */
  readonly near?: { readonly x: number; readonly y: number; readonly radius: number };
  /** Asks for all texts in a box as one number, drawing units; the answer is the content of what is found. */
  readonly print?: { readonly minX: number; readonly minY: number; readonly maxX: number; readonly maxY: number };
  /** Where the drawing's texts are. */
  readonly url: string;
  readonly query: string;
  readonly most: number;
}

export interface FromFindWorker {
  readonly id: number;
  readonly found: readonly FoundText[];
  readonly reason?: string;
}

/** Places that are told of one text. */
const MOST_PLACES = 500;

let texts: Promise<{ readonly index: TextIndex; readonly columns: TextColumns }> | null = null;

self.onmessage = ({ data }: MessageEvent<ToFindWorker>): void => void answer(data);

async function answer({ id, url, query, most, near, print }: ToFindWorker): Promise<void> {
  try {
    texts ??= open(url);
    const { index, columns } = await texts;
    if (print) {
      const found: FoundText[] = [{ content: printOf(columns, print), count: 1, places: [] }];
      self.postMessage({ id, found } satisfies FromFindWorker);
      return;
    }
    if (near) {
      const place = outstandingText(columns, near);
      const hit = place < 0 ? [] : [foundText({ content: columns.contents[place]!, places: [place] }, columns)];
      self.postMessage({ id, found: hit } satisfies FromFindWorker);
      return;
    }
    const say: FromFindWorker = { id, found: index.find(query, most).map((hit) => foundText(hit, columns)) };
    self.postMessage(say);
  } catch (error) {
    texts = null;
    const say: FromFindWorker = { id, found: [], reason: String(error) };
    self.postMessage(say);
  }
}

function printOf({ contents, x, y, sizes }: TextColumns, box: NonNullable<ToFindWorker['print']>): string {
  const print = new ContentPrint();
  contents.forEach((content, i) => {
    const [atX, atY] = [x[i]!, y[i]!];
    const isIn = atX >= box.minX && atX <= box.maxX && atY >= box.minY && atY <= box.maxY;
    if (isIn) print.add([atX, atY, sizes[i]!], content);
  });
  return String(print);
}

/** The largest text near a place: what is farther must be the larger. @returns −1 if none is that near */
function outstandingText(columns: TextColumns, { x, y, radius }: { x: number; y: number; radius: number }): number {
  let [best, most] = [-1, 0];
  columns.sizes.forEach((size, i) => {
    const distance = Math.hypot(columns.x[i]! - x, columns.y[i]! - y);
    const standsOut = distance < radius ? size ** 1.6 / (0.35 * radius + distance) : 0;
    if (standsOut > most) [best, most] = [i, standsOut];
  });
  return best;
}

async function open(url: string): Promise<{ index: TextIndex; columns: TextColumns }> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`status ${response.status}`);
  const columns = (await response.json()) as TextColumns;
  return { index: new TextIndex(columns.contents), columns };
}

function foundText({ content, places }: Pick<TextHit, 'content' | 'places'>, columns: TextColumns): FoundText {
  const placeOf = (i: number): TextPlace => {
    const [width, anchor, angleRad] = [columns.widths[i]!, columns.anchors[i]!, columns.anglesRad[i]!];
    const back = anchor === 'middle' ? width / 2 : anchor === 'end' ? width : 0;
    return {
      ...{ object: columns.objects[i]!, layer: columns.layers[i]!, size: columns.sizes[i]!, width, angleRad },
      ...{ x: columns.x[i]! - back * Math.cos(angleRad), y: columns.y[i]! - back * Math.sin(angleRad) },
    };
  };
  return { content, count: places.length, places: places.slice(0, MOST_PLACES).map(placeOf) };
}
