import type { Mark } from '../marks/mark.ts';

/** A row of a legend. */
export interface LegendRow {
  readonly name: string;
  /** `#rrggbb` */
  readonly colour: string;
  /** How it is shown: as lines, or as hatched areas. */
  readonly sample: 'line' | 'hatch';
}

/** What the views of a sheet leave out. */
export interface LeftOut {
  readonly hiddenLayers: readonly string[];
  readonly hiddenMarkLayers: readonly string[];
}

/**
 * The legend of a sheet: layers that any of its views shows, hatches of marks after them.
 * @param layers those that hold anything
 */
export function legendRows(
  views: readonly LeftOut[],
  layers: readonly { readonly name: string; readonly colour: string }[],
  marks: readonly Pick<Mark, 'kind' | 'layer' | 'colour'>[],
): readonly LegendRow[] {
  const rows: LegendRow[] = [];
  const add = (row: LegendRow): void => {
    if (!rows.some(({ name, sample }) => name === row.name && sample === row.sample)) rows.push(row);
  };
  for (const { name, colour } of layers)
    if (views.some(({ hiddenLayers }) => !hiddenLayers.includes(name))) add({ name, colour, sample: 'line' });
  for (const { kind, layer, colour } of marks)
    if (kind === 'hatch' && views.some(({ hiddenMarkLayers }) => !hiddenMarkLayers.includes(layer)))
      add({ name: layer, colour, sample: 'hatch' });
  return rows;
}
