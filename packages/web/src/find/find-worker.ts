/** Finds texts of the drawing off the page's thread; the index is made with the first question. */
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

async function answer({ id, url, query, most }: ToFindWorker): Promise<void> {
  try {
    texts ??= open(url);
    const { index, columns } = await texts;
    const say: FromFindWorker = { id, found: index.find(query, most).map((hit) => foundText(hit, columns)) };
    self.postMessage(say);
  } catch (error) {
    texts = null;
    const say: FromFindWorker = { id, found: [], reason: String(error) };
    self.postMessage(say);
  }
}

async function open(url: string): Promise<{ index: TextIndex; columns: TextColumns }> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`status ${response.status}`);
  const columns = (await response.json()) as TextColumns;
  return { index: new TextIndex(columns.contents), columns };
}

function foundText({ content, places }: TextHit, columns: TextColumns): FoundText {
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
