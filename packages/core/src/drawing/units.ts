/** Length units that drawings may be in; `none` where the source doesn't say. */
export const drawingUnits = ['mm', 'm', 'in', 'ft', 'none'] as const;
export type DrawingUnit = (typeof drawingUnits)[number];
/** Units that lengths can be told in. */
export const lengthUnits = ['mm', 'm', 'in', 'ft'] as const;
export type LengthUnit = (typeof lengthUnits)[number];

/** Units that measured figures can be told in, whatever the drawing's own. */
export const shownUnits = [...lengthUnits, 'cm', 'km', 'ft-in', 'ft US'] as const;
/** `ft-in` is feet and inches with fractions, `ft US` the survey foot of the United States. */
export type ShownUnit = (typeof shownUnits)[number];

/** Tenths of a millimetre of a unit, whole numbers (international yard and pound agreement, 1959). Drawings that don't say count as mm. */
const tenths: Readonly<Record<DrawingUnit, number>> = { mm: 10, m: 10_000, in: 254, ft: 3048, none: 10 };

/** Millimetres in one unit; 1 where a drawing has none. */
export const mmPerUnit = (unit: DrawingUnit): number => tenths[unit] / 10;

/** A length in another unit; with a power of 2 an area, of 3 a volume. Ends at the nearest double where that can be. */
export function inUnit(value: number, from: DrawingUnit, to: DrawingUnit, power = 1): number {
  return from === to ? value : (value * tenths[from] ** power) / tenths[to] ** power;
}

/** Tenths of a millimetre of a shown unit as a fraction; the survey foot is 1200/3937 m (Mendenhall order, 1893). */
const fractions: Readonly<Record<ShownUnit, readonly [over: number, under: number]>> = {
  mm: [10, 1],
  cm: [100, 1],
  m: [10_000, 1],
  km: [10_000_000, 1],
  in: [254, 1],
  ft: [3048, 1],
  'ft-in': [254, 1],
  'ft US': [12_000_000, 3937],
};

/** A length as it is shown, feet and inches as inches; with a power of 2 an area, of 3 a volume. */
export function inShownUnit(value: number, from: DrawingUnit, to: ShownUnit, power = 1): number {
  if (from === to) return value;
  const [over, under] = fractions[to];
  return (value * (tenths[from] * under) ** power) / over ** power;
}
