import { MOST_KEPT_VIEWS, type TrailDto, type TrailViewDto } from './trail.ts';

/** Equal for the same view in two trails, however it was reached. */
const keyOf = (
  { x, y, z, unitsPerPx, qx, qy, qz, qw, fovRad, shown }: TrailViewDto,
  { shown: table }: TrailDto,
): string => JSON.stringify([x, y, z, unitsPerPx, qx, qy, qz, qw, fovRad, shown === undefined ? null : table?.[shown]]);

/**
 * Adds the views of other windows to a window's own trail, as branches from its first view. Each view is added once and
 * marked as coming from elsewhere. The result holds at most {@link MOST_KEPT_VIEWS} views; earlier trails take precedence.
 */
export function mergeTrails(own: TrailDto, others: readonly TrailDto[]): TrailDto {
  const views = [...own.views];
  const shown = [...(own.shown ?? [])];
  const placeOf = new Map(views.map((view, index) => [keyOf(view, own), index]));
  for (const other of others) {
    const places: number[] = [];
    const offset = shown.length;
    const table = other.shown ?? [];
    if (offset + table.length > MOST_KEPT_VIEWS) continue;
    shown.push(...table);
    for (const view of other.views) {
      const key = keyOf(view, other);
      const known = placeOf.get(key);
      if (known === undefined && views.length >= MOST_KEPT_VIEWS) break;
      places.push(known ?? views.length);
      if (known !== undefined) continue;
      placeOf.set(key, views.length);
      views.push({
        ...view,
        // the other trail's first view becomes a child of this trail's first view
        parent: view.parent < 0 ? Math.min(0, views.length - 1) : places[view.parent]!,
        forward: -1,
        ...(view.shown === undefined ? {} : { shown: view.shown + offset }),
        isElsewhere: true,
      });
    }
    other.views.forEach(({ forward }, index) => {
      const [from, to] = [places[index], places[forward]];
      if (from === undefined || to === undefined || from < own.views.length || to <= from) return;
      if (views[to]!.parent === from) views[from] = { ...views[from]!, forward: to };
    });
  }
  return { views, current: own.current, ...(shown.length > 0 ? { shown } : {}) };
}
