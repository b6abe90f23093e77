import { numbersOfRanges, rangesOf } from '@gull-pane/core/drawing/ranges';
import type { ExchangedDrawing, ExchangedView } from './view.ts';

/** Objects as other programs may name them: by number and name. */
export const toolIdOf = (object: number, { objectNames }: ExchangedDrawing): string =>
  `${object} ${objectNames?.[object] ?? ''}`.trim();

/** The objects that a view hides, whether for themselves or with their layers. */
export function hiddenObjectsOf({ shows }: ExchangedView, drawing: ExchangedDrawing): number[] {
  const hidden = new Set(
    shows.revision === drawing.revision ? numbersOfRanges(shows.hiddenObjects, drawing.objects) : [],
  );
  for (const layer of shows.hiddenLayers)
    for (const object of drawing.objectsOfLayer?.(layer) ?? []) hidden.add(object);
  return [...hidden].sort((a, b) => a - b);
}

/**
 * Finds objects by the ids that their source gave them, or by what `toolIdOf` wrote: by their numbers if their names are still the same, else by their names alone.
 * @param ids of each object the names that it may have, the surest first
 * @returns as ranges, and how many weren't found
 */
export function objectsByToolId(
  ids: readonly (readonly string[])[],
  drawing: ExchangedDrawing,
): { readonly ranges: string; readonly unknown: number } {
  const byName = new Map<string, number>();
  for (const [object, name] of (drawing.objectNames ?? []).entries()) if (!byName.has(name)) byName.set(name, object);
  const byId = new Map((drawing.objectIds ?? []).map((id, object) => [id, object]));
  byId.delete('');
  const found = new Set<number>();
  let unknown = 0;
  const objectOf = (id: string): number | undefined => {
    const named = byId.get(id);
    if (named !== undefined) return named;
    const [, number = '', name = ''] = /^(\d+)(?: (.*))?$/.exec(id) ?? [];
    const object = number === '' ? -1 : Number(number);
    const isSame = object >= 0 && object < drawing.objects && (drawing.objectNames?.[object] ?? '') === name;
    return isSame ? object : byName.get(number === '' ? id : name);
  };
  for (const names of ids) {
    const [own] = names.flatMap((name) => objectOf(name) ?? []);
    if (own === undefined) unknown++;
    else found.add(own);
  }
  return { ranges: rangesOf(drawing.objects, (object) => found.has(object)), unknown };
}
