/** Finds texts of the drawing off the page's thread; the index is made with the first question. */
import { ContentPrint } from '@gull-pane/core/pick/content-print';
import { SIMILAR_RANK, TextIndex, type TextHit } from '@gull-pane/core/find/text-index';
import type { TextColumns } from '@gull-pane/protocol/texts';
import { answerCalls } from '../basics/answer-calls';
import type { FindCalls, FoundText, TextPlace } from './find-calls';

/** Places that are told of one text. */
const MOST_PLACES = 500;

interface Texts {
  readonly index: TextIndex;
  readonly columns: TextColumns;
}

let address = '';
let texts: Promise<Texts> | null = null;

async function withTexts<Answer>(answer: (texts: Texts) => Answer): Promise<Answer> {
  try {
    return answer(await (texts ??= open(address)));
  } catch (error) {
    texts = null; // tried again with the next question
    throw error;
  }
}

function printOf({ contents, x, y, sizes }: TextColumns, box: FindCalls['print']['ask']): string {
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

async function open(url: string): Promise<Texts> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`status ${response.status}`);
  const columns = (await response.json()) as TextColumns;
  return { index: new TextIndex(columns.contents), columns };
}

function foundText({ content, places, rank }: TextHit, columns: TextColumns): FoundText {
  const placeOf = (i: number): TextPlace => {
    const [width, anchor, angleRad] = [columns.widths[i]!, columns.anchors[i]!, columns.anglesRad[i]!];
    const back = anchor === 'middle' ? width / 2 : anchor === 'end' ? width : 0;
    return {
      object: columns.objects[i]!,
      layer: columns.layers[i]!,
      size: columns.sizes[i]!,
      width,
      angleRad,
      x: columns.x[i]! - back * Math.cos(angleRad),
      y: columns.y[i]! - back * Math.sin(angleRad),
    };
  };
  return {
    content,
    isSimilar: rank >= SIMILAR_RANK,
    count: places.length,
    places: places.slice(0, MOST_PLACES).map(placeOf),
  };
}

answerCalls<FindCalls>({
  open(told) {
    address = told;
  },
  find: ({ query, most }) =>
    withTexts(({ index, columns }) => index.find(query, most).map((hit) => foundText(hit, columns))),
  nearest: (near) => withTexts(({ columns }) => columns.contents[outstandingText(columns, near)] ?? null),
  print: (box) => withTexts(({ columns }) => printOf(columns, box)),
});
