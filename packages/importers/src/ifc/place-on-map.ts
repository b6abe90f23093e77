import { numberOf, valueOf, type IfcLines, type Line } from './ifc-lines.ts';
import type { IfcTypes } from './ifc-types.ts';

/** How a model lies on a map: first turned and scaled, then moved. Millimetres, Z up. */
export interface MapPlacement {
  readonly cos: number;
  readonly sin: number;
  readonly scale: number;
  readonly east: number;
  readonly north: number;
  readonly height: number;
  /** Name of the map's reference system. */
  readonly system: string;
}

const MM = 1000;
/** Prefixes of SI that lengths have. */
const prefixes: Readonly<Record<string, number>> = { MILLI: 1e-3, CENTI: 1e-2, DECI: 1e-1, KILO: 1e3 };

/** The map conversion of a model (ISO 16739-1, 8.18.3.14); null if it has none. */
export function mapPlacementOf(lines: IfcLines, types: IfcTypes): MapPlacement | null {
  for (const line of lines.ofType(types.mapConversions)) {
    const target = lines.follow(line.TargetCRS);
    const mapUnit = metresOf(lines.follow(target?.MapUnit), lines);
    const toMm = mapUnit * MM;
    const told = numberOf(line.Scale);
    const [abscissa, ordinate] = [numberOf(line.XAxisAbscissa) ?? 1, numberOf(line.XAxisOrdinate) ?? 0];
    const length = Math.hypot(abscissa, ordinate) || 1;
    return {
      cos: abscissa / length,
      sin: ordinate / length,
      // it converts units as well, 0.001 from millimetres to metres: those of lengths have been converted already
      scale: told === null ? 1 : (told * mapUnit) / lengthUnit(lines, types),
      east: (numberOf(line.Eastings) ?? 0) * toMm,
      north: (numberOf(line.Northings) ?? 0) * toMm,
      height: (numberOf(line.OrthogonalHeight) ?? 0) * toMm,
      system: valueOf(target?.Name),
    };
  }
  return null;
}

/** Metres in the unit of the model's lengths. */
function lengthUnit(lines: IfcLines, types: IfcTypes): number {
  for (const assignment of lines.ofType(types.units))
    for (const unit of lines.followAll(assignment.Units))
      if (valueOf(unit.UnitType) === 'LENGTHUNIT') return metresOf(unit, lines);
  return 1;
}

/** How many metres a unit of lengths is; metres if the file gives none. */
function metresOf(unit: Line | null, lines: IfcLines): number {
  if (!unit) return 1;
  const measure = lines.follow(unit.ConversionFactor);
  const factor = numberOf(measure?.ValueComponent);
  if (factor !== null) return factor * metresOf(lines.follow(measure?.UnitComponent), lines);
  return prefixes[valueOf(unit.Prefix)] ?? 1;
}

/** Moves points to where they lie on the map, in place. @param positions x, y, z triples, mm */
export function placeOnMap(positions: Float64Array, { cos, sin, scale, east, north, height }: MapPlacement): void {
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    positions[i] = east + scale * (x * cos - y * sin);
    positions[i + 1] = north + scale * (x * sin + y * cos);
    positions[i + 2] = height + z * scale;
  }
}

/** How directions are turned on the map. @param turn a 3 × 3 row by row, before that */
export function turnedOnMap(turn: Float64Array, { cos, sin }: MapPlacement): Float64Array {
  return turn.map((value, i) =>
    i < 3 ? cos * value - sin * turn[i + 3]! : i < 6 ? sin * turn[i - 3]! + cos * value : value,
  );
}

/** By how much true north is turned from the model's Y axis, clockwise, degrees; null where it isn't told. */
export function trueNorthDeg(lines: IfcLines, types: IfcTypes): number | null {
  for (const context of lines.ofType(types.contexts)) {
    const ratios = (lines.follow(context.TrueNorth)?.DirectionRatios ?? []) as readonly unknown[];
    const [x, y] = [numberOf(ratios[0]), numberOf(ratios[1])];
    if (x !== null && y !== null && (x !== 0 || y < 0)) return (Math.atan2(x, y) * 180) / Math.PI;
  }
  return null;
}
