import type { Viewport } from '@gull-pane/core/camera/camera';
import type { Vec2 } from '@gull-pane/core/geometry/vec';

/** A rectangle of a pane, CSS px from its upper left corner. */
export interface Rect {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** From the edge of the pane, and from what must not be covered, CSS px. */
const MARGIN_PX = 8;
/** Between two places that are tried, CSS px. */
const STEP_PX = 16;
/** A place that covers what the card is about is taken only where no other is left. */
const COVERS_PX = 1e6;

/** @returns where a card begins along one axis: behind a place, before it if there is no room, within the pane anyway */
function besideAlong(at: number, size: number, room: number, gapPx: number): number {
  const behind = at + gapPx;
  const start = behind + size <= room ? behind : at - gapPx - size;
  return Math.max(Math.min(start, room - size), 0);
}

/**
 * Where a card stands beside a place: right of it and below, on the other side where the pane ends.
 * @param at CSS px of the pane
 * @param gapPx between the place and the card
 * @returns its upper left corner, wholly within the pane if it fits in
 */
export const besideAt = (
  { widthPx, heightPx }: Viewport,
  { width, height }: Pick<Rect, 'width' | 'height'>,
  { x, y }: Vec2,
  gapPx: number,
): { readonly left: number; readonly top: number } => ({
  left: besideAlong(x, width, widthPx, gapPx),
  top: besideAlong(y, height, heightPx, gapPx),
});

/**
 * Where a card stands: in the margin of the pane that is nearest to what it is about.
 * @param about what it tells of, the last the most; CSS px. What is out of sight counts by its nearest place in it.
 * @param taken what must not be covered
 * @returns its upper left corner, wholly within the pane if it fits in
 */
export function parkedAt(
  { widthPx, heightPx }: Viewport,
  size: Pick<Rect, 'width' | 'height'>,
  about: readonly Vec2[],
  taken: readonly Rect[],
): { readonly left: number; readonly top: number } {
  const [right, bottom] = [widthPx - size.width - MARGIN_PX, heightPx - size.height - MARGIN_PX];
  const last = about.at(-1) ?? { x: widthPx / 2, y: heightPx / 2 };
  const [x, y] = [Math.min(Math.max(last.x, 0), widthPx), Math.min(Math.max(last.y, 0), heightPx)];
  const places: { left: number; top: number }[] = [];
  for (let left = MARGIN_PX; left <= right; left += STEP_PX)
    places.push({ left, top: MARGIN_PX }, { left, top: bottom });
  for (let top = MARGIN_PX; top <= bottom; top += STEP_PX) places.push({ left: MARGIN_PX, top }, { left: right, top });
  let best = { left: Math.max(right, 0), top: Math.max(bottom, 0) };
  let least = Infinity;
  for (const place of places) {
    const card = { ...place, width: size.width, height: size.height };
    if (taken.some((other) => overlap(card, other))) continue;
    const away = Math.hypot(place.left + size.width / 2 - x, place.top + size.height / 2 - y);
    const cost = away + (about.some((point) => isIn(card, point)) ? COVERS_PX : 0);
    if (cost < least) [best, least] = [place, cost];
  }
  return best;
}

const overlap = (a: Rect, b: Rect): boolean =>
  a.left < b.left + b.width + MARGIN_PX &&
  b.left < a.left + a.width + MARGIN_PX &&
  a.top < b.top + b.height + MARGIN_PX &&
  b.top < a.top + a.height + MARGIN_PX;

const isIn = ({ left, top, width, height }: Rect, { x, y }: Vec2): boolean =>
  x >= left - MARGIN_PX && x <= left + width + MARGIN_PX && y >= top - MARGIN_PX && y <= top + height + MARGIN_PX;
