/** Length units that drawings may be in; `none` where the source doesn't say. */
export const drawingUnits = ['mm', 'm', 'in', 'ft', 'none'] as const;
export type DrawingUnit = (typeof drawingUnits)[number];
/** Units that lengths can be told in. */
export const lengthUnits = ['mm', 'm', 'in', 'ft'] as const;
export type LengthUnit = (typeof lengthUnits)[number];

/** Tenths of a millimetre of a unit, whole numbers (international yard and pound agreement, 1959). Drawings that don't say count as mm. */
const tenths: Readonly<Record<DrawingUnit, number>> = { mm: 10, m: 10_000, in: 254, ft: 3048, none: 10 };

export const mmPerUnit = (unit: DrawingUnit): number => tenths[unit] / 10;

/** A length in another unit; with a power of 2 an area, of 3 a volume. Ends at the nearest double where that can be. */
export function inUnit(value: number, from: DrawingUnit, to: DrawingUnit, power = 1): number {
  return from === to ? value : (value * tenths[from] ** power) / tenths[to] ** power;
}
