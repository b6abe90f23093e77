import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { sharesGrid } from '@gull-pane/core/panes/tie';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { api } from '../api/client';

const sizeOf = ({ extents }: DrawingDto): number =>
  extents ? (extents.max.x - extents.min.x) * (extents.max.y - extents.min.y) : Infinity;

const distanceTo = ({ extents }: DrawingDto, { x, y }: Vec2): number => {
  if (!extents) return Infinity;
  const { min, max } = extents;
  return Math.hypot(Math.max(min.x - x, 0, x - max.x), Math.max(min.y - y, 0, y - max.y));
};

/**
 * The drawing of the other kind, flat or solid, that lies where a drawing does.
 * @param place what is looked at: of several drawings the nearest to it is taken, of those that hold it the smallest
 */
export async function counterpartOf(drawing: DrawingDto, place: Vec2): Promise<string | null> {
  const { unit, extents, kind } = drawing;
  const all = await api.drawings().catch(() => []);
  const there = all.filter(
    (other) =>
      other.kind !== kind &&
      other.revision > 0 &&
      sharesGrid({ unit, extents: extents ?? null }, { unit: other.unit, extents: other.extents ?? null }),
  );
  return there.sort((a, b) => distanceTo(a, place) - distanceTo(b, place) || sizeOf(a) - sizeOf(b))[0]?.id ?? null;
}
