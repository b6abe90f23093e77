import { AnnotationMode, OPS, type PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { ReadError } from '../read-error.ts';
import type { PageOperators } from './page-state.ts';

/** The states of a page that may be kept at once: the parser's own time grows with the square of their number. */
const MOST_KEPT_STATES = 5000;

/** The parser's own: it is called with each piece of a page as soon as that has been taken apart. */
interface PiecewisePage {
  _renderPageChunk(piece: { readonly fnArray: readonly number[] }, intent: unknown): void;
}

/** What a page may hold. */
export interface PageLimits {
  readonly mostOperators: number;
  /** Forms that are drawn, each as often as it is: the parser unpacks them anew. */
  readonly mostForms: number;
}

/**
 * What a page draws, operator by operator. Forms within forms multiply: they are counted while they are taken apart, since
 * the whole page may not fit into memory.
 * @returns null if the page can't be read
 * @throws ReadError if there are too many of them, or too many states are kept
 */
export async function pageOperators(page: PDFPageProxy, limits: PageLimits): Promise<PageOperators | null> {
  const piecewise = page as unknown as PiecewisePage;
  const take = piecewise._renderPageChunk.bind(piecewise);
  const tally = { operators: 0, forms: 0, depth: 0 };
  const tooMuch = new Promise<never>((_, reject) => {
    piecewise._renderPageChunk = (piece, intent) => {
      for (const operator of piece.fnArray) {
        tally.operators++;
        if (operator === OPS.paintFormXObjectBegin) tally.forms++;
        else if (operator === OPS.save) tally.depth++;
        else if (operator === OPS.restore) tally.depth--;
      }
      const excess = excessOf(tally, limits);
      if (excess !== null) reject(new ReadError('limit-exceeded', excess));
      else take(piece, intent);
    };
  });
  const whole = page.getOperatorList({ annotationMode: AnnotationMode.ENABLE }).catch(() => null);
  return Promise.race([whole, tooMuch]);
}

function excessOf(
  { operators, forms, depth }: Readonly<Record<'operators' | 'forms' | 'depth', number>>,
  { mostOperators, mostForms }: PageLimits,
): string | null {
  if (operators > mostOperators) return `A page has more than ${mostOperators} operators (GULL_PANE_MAX_ELEMENTS).`;
  if (forms > mostForms) return `A page draws more than ${mostForms} forms (GULL_PANE_MAX_ELEMENTS).`;
  return depth > MOST_KEPT_STATES ? `A page keeps more than ${MOST_KEPT_STATES} graphics states at once.` : null;
}
