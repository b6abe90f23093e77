import type { Viewport } from '@gull-pane/core/camera/camera';
import { timelineOf, type Timeline, type TourStop } from '@gull-pane/core/tour/timeline';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { StopDto, TourDto } from '@gull-pane/protocol/tours';
import { fittingCamera } from './cards-store';

/** A stop whose card is there. */
export interface PlannedStop {
  readonly stop: StopDto;
  readonly card: CardDto;
}

/** A tour put in time for a pane of some size. */
export interface TourPlan {
  readonly tour: TourDto;
  /** Those of the tour whose cards are there, in their order: times and moments count these. */
  readonly stops: readonly PlannedStop[];
  readonly tourStops: readonly TourStop[];
  /** Null without a stop. */
  readonly timeline: Timeline | null;
}

/** @param raised by the ids of stops, how much higher than need be the way there rises */
export function planOf(
  tour: TourDto,
  cards: readonly CardDto[],
  viewport: Viewport,
  raised: ReadonlyMap<string, number> = new Map(),
): TourPlan {
  const byId = new Map(cards.map((card) => [card.id, card]));
  const stops = tour.stops.flatMap((stop): PlannedStop[] => {
    const card = byId.get(stop.cardId);
    return card ? [{ stop, card }] : [];
  });
  const tourStops = stops.map(({ stop, card }): TourStop => {
    const { travelMs, stayMs, easing, looksChange, driftRadPerS } = stop;
    const camera = fittingCamera(card, viewport);
    return { camera, travelMs, stayMs, easing, looksChange, driftRadPerS };
  });
  const raises = stops.map(({ stop }) => raised.get(stop.id) ?? 0);
  const timeline = stops.length > 0 ? timelineOf(tourStops, viewport, { loops: tour.loops, raised: raises }) : null;
  return { tour, stops, tourStops, timeline };
}

/** What is written while one is at a stop. */
export const captionOf = ({ stop, card }: PlannedStop): string => (stop.caption === '' ? card.name : stop.caption);
