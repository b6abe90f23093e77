import { seededRandom } from '@gull-pane/core/geometry/random';
import { PlanWriter, type Point } from './plan-writer.ts';
import {
  MEDIUM,
  SHEET_EAST,
  SHEET_HEIGHT,
  SHEET_NORTH,
  SHEET_WIDTH,
  THICK,
  THIN,
  colours,
  textHeights,
} from './works.ts';

type Random = () => number;
type Shape = 'kerb' | 'outline' | 'run' | 'hatch' | 'contour';

interface Trade {
  readonly name: string;
  readonly colour: string;
  readonly width: number;
  readonly dashes?: readonly number[];
  readonly shape: Shape;
  /** Share of all segments. */
  readonly share: number;
  /** Share of the elements whose segments are longer than half a metre. */
  readonly coarse: number;
}

const trades: readonly Trade[] = [
  { name: 'Contours', colour: colours.earth, width: THIN, shape: 'contour', share: 0.1, coarse: 0.8 },
  { name: 'Kerbs', colour: colours.road, width: MEDIUM, shape: 'kerb', share: 0.08, coarse: 0.6 },
  {
    name: 'Road markings',
    colour: colours.road,
    width: THIN,
    dashes: [3000, 3000],
    shape: 'kerb',
    share: 0.03,
    coarse: 0.9,
  },
  { name: 'Buildings', colour: colours.building, width: THICK, shape: 'outline', share: 0.06, coarse: 0.7 },
  { name: 'Columns', colour: colours.building, width: MEDIUM, shape: 'outline', share: 0.06, coarse: 0.05 },
  { name: 'Wall hatch', colour: colours.hatch, width: THIN, shape: 'hatch', share: 0.16, coarse: 0.25 },
  { name: 'Equipment', colour: colours.steel, width: MEDIUM, shape: 'outline', share: 0.16, coarse: 0.2 },
  { name: 'Seawater pipes', colour: colours.seawater, width: MEDIUM, shape: 'run', share: 0.08, coarse: 0.5 },
  { name: 'Permeate pipes', colour: colours.permeate, width: MEDIUM, shape: 'run', share: 0.07, coarse: 0.5 },
  { name: 'Brine pipes', colour: colours.brine, width: MEDIUM, shape: 'run', share: 0.04, coarse: 0.5 },
  { name: 'Valves', colour: colours.dimension, width: THIN, shape: 'outline', share: 0.04, coarse: 0 },
  { name: 'Cable trays', colour: colours.electric, width: THIN, shape: 'run', share: 0.06, coarse: 0.4 },
  { name: 'Drains', colour: colours.water, width: THIN, dashes: [2000, 600], shape: 'run', share: 0.03, coarse: 0.6 },
  { name: 'Dimensions', colour: colours.dimension, width: THIN, shape: 'run', share: 0.03, coarse: 0.5 },
];

/** What a districts' centre attracts: plots of different density, so that no part of the plan is a copy of another. */
interface District {
  readonly centre: Point;
  readonly reach: number;
  readonly angle: number;
}

/** Texts stand for every so many segments. */
const SEGMENTS_PER_TEXT = 400;

/**
 * Writes a plan of the works' kind with about this many lines and curves, four to an element on average. Each element is
 * written as soon as it is made: memory doesn't grow with the drawing.
 * @returns how many lines and curves were written
 */
export function writeLargeDrawing(
  segments: number,
  seed: number,
  write: (text: string) => void,
  origin?: Point,
): number {
  const random = seededRandom(seed);
  const plan = new PlanWriter(write, origin);
  plan.begin(SHEET_EAST, SHEET_NORTH, SHEET_WIDTH, SHEET_HEIGHT, `Extended works, ${segments} segments`);
  const districts = Array.from({ length: 60 }, (): District => ({
    centre: [
      SHEET_EAST + (0.06 + 0.88 * random()) * SHEET_WIDTH,
      SHEET_NORTH + (0.06 + 0.88 * random()) * SHEET_HEIGHT,
    ],
    reach: (0.02 + 0.12 * random() ** 2) * SHEET_WIDTH,
    angle: random() < 0.7 ? 0 : random() * Math.PI,
  }));
  let tag = 1;
  for (const trade of trades) {
    plan.layer(trade.name, trade);
    const until = plan.segments + Math.round(segments * trade.share);
    let nextText = plan.segments + SEGMENTS_PER_TEXT;
    while (plan.segments < until) {
      const spot = drawElement(plan, trade, districts, random);
      if (plan.segments < nextText) continue;
      nextText += SEGMENTS_PER_TEXT;
      plan.text(
        spot,
        `KS-${trade.name.slice(0, 2).toUpperCase()}-${String(tag++).padStart(5, '0')}`,
        textHeights.small * (0.4 + random()),
      );
    }
  }
  plan.end();
  return plan.segments;
}

function drawElement(plan: PlanWriter, trade: Trade, districts: readonly District[], random: Random): Point {
  const district = districts[Math.floor(random() * districts.length)]!;
  const isCoarse = random() < trade.coarse;
  // half a metre is about a pixel when the whole sheet is seen; lengths go from 2 cm to 200 m, long ones are rare
  const length = isCoarse ? 500 * (1 - random() * 0.9975) ** -0.9 : 20 * 25 ** random();
  const spread = Math.sqrt(-2 * Math.log(1 - random() * 0.999)) * district.reach;
  const where = random() * 2 * Math.PI;
  const keep = (value: number, from: number, size: number): number =>
    Math.min(Math.max(value, from + 0.01 * size), from + 0.99 * size);
  const x = keep(district.centre[0] + Math.cos(where) * spread, SHEET_EAST, SHEET_WIDTH);
  const y = keep(district.centre[1] + Math.sin(where) * spread, SHEET_NORTH, SHEET_HEIGHT);
  const angle = district.angle + (random() < 0.5 ? 0 : Math.PI / 2) + (random() < 0.1 ? random() : 0);
  const at = (along: number, across: number): Point => [
    x + along * Math.cos(angle) - across * Math.sin(angle),
    y + along * Math.sin(angle) + across * Math.cos(angle),
  ];
  switch (trade.shape) {
    case 'outline': {
      const depth = length * (0.3 + random());
      plan.line([at(0, 0), at(length, 0), at(length, depth), at(0, depth)], true);
      break;
    }
    case 'hatch': {
      const gap = 0.2 * length * (0.5 + random());
      plan.lines([0, 1, 2, 3].map((k) => [at(k * gap, 0), at(k * gap + length * 0.7, length * 0.7)]));
      break;
    }
    case 'run': {
      const step = length * (0.4 + random());
      plan.line([at(0, 0), at(length, 0), at(length, step), at(length * 1.8, step), at(length * 1.8, step * 0.2)]);
      break;
    }
    case 'kerb': {
      const bend = (random() - 0.5) * 0.8;
      plan.line([0, 1, 2, 3, 4].map((k) => at(k * length, bend * length * k * k * 0.3)));
      break;
    }
    case 'contour':
      plan.smooth([0, 1, 2, 3, 4].map((k) => at(k * length, (random() - 0.5) * length)));
      break;
  }
  return [x, y];
}
