import type { ArrangementHeadDto } from './arrangements.ts';
import type { CardDto } from './cards.ts';
import type { DrawingDto } from './drawings.ts';
import type { MarkDto } from './marks.ts';
import type { SheetSetDto } from './sheet-sets.ts';
import type { TourDto } from './tours.ts';

/** What has changed on the server, told to every window that listens at `/api/events`. */
export type ChangeEvent =
  | { readonly kind: 'card'; readonly card: CardDto }
  | { readonly kind: 'card-gone'; readonly drawingId: string; readonly id: string }
  /** Somebody has said something of the changes of a revision. */
  | { readonly kind: 'reviews'; readonly drawingId: string }
  /** Many views and tours of a drawing at once: they are asked for anew. */
  | { readonly kind: 'views'; readonly drawingId: string }
  | { readonly kind: 'tour'; readonly tour: TourDto }
  | { readonly kind: 'tour-gone'; readonly drawingId: string; readonly id: string }
  | { readonly kind: 'sheet-set'; readonly set: SheetSetDto }
  | { readonly kind: 'sheet-set-gone'; readonly drawingId: string; readonly id: string }
  /** Marks were drawn, changed or deleted. @see ChangeMarksDto */
  | {
      readonly kind: 'marks';
      readonly drawingId: string;
      readonly put: readonly MarkDto[];
      readonly remove: readonly string[];
      readonly by: string;
    }
  | { readonly kind: 'arrangement'; readonly arrangement: ArrangementHeadDto }
  | { readonly kind: 'arrangement-gone'; readonly id: string }
  /** Renamed, another home, or imported anew. */
  | { readonly kind: 'drawing'; readonly drawing: DrawingDto }
  | { readonly kind: 'drawing-gone'; readonly id: string };

/** What a stream of changes begins with. */
export interface EventsBegin {
  /** All that changed since the client was there before follows. */
  readonly isComplete: boolean;
}
