import type { PlanWriter, Point } from './plan-writer.ts';
import { place } from './terrain.ts';
import { MEDIUM, THICK, THIN, colours, textHeights } from './works.ts';

/** A building's outline in metres from the sheet's corner. */
export interface Building {
  readonly name: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly depth: number;
}

export const buildings = {
  screenHouse: { name: 'Screen house', x: 150, y: 226, width: 30, depth: 38 },
  pumpHall: { name: 'Pump hall', x: 206, y: 214, width: 62, depth: 34 },
  filters: { name: 'Gravity filters', x: 206, y: 282, width: 96, depth: 44 },
  membraneHall: { name: 'Membrane hall', x: 330, y: 205, width: 118, depth: 62 },
  dosing: { name: 'Chemical dosing', x: 330, y: 290, width: 40, depth: 26 },
  remineralisation: { name: 'Remineralisation', x: 384, y: 290, width: 64, depth: 26 },
  substation: { name: 'Substation', x: 206, y: 140, width: 44, depth: 24 },
  workshop: { name: 'Workshop and stores', x: 270, y: 140, width: 52, depth: 24 },
  offices: { name: 'Offices and control room', x: 470, y: 312, width: 46, depth: 18 },
} as const satisfies Record<string, Building>;

const WALL = 0.4;

/** Walls with their hatch, columns, doors, names. */
export function drawBuildings(plan: PlanWriter): void {
  const all = Object.values(buildings);
  plan.layer('Buildings', { colour: colours.building, width: THICK });
  for (const { x, y, width, depth } of all) {
    plan.rectangle(...place(x, y), width * 1000, depth * 1000);
    plan.rectangle(
      ...place(x + WALL, y + WALL),
      (width - 2 * WALL) * 1000,
      (depth - 2 * WALL) * 1000,
      `stroke-width="${MEDIUM}"`,
    );
  }
  plan.layer('Wall hatch', { colour: colours.hatch, width: THIN });
  for (const building of all) hatchWalls(plan, building);
  plan.layer('Columns and doors', { colour: colours.building, width: MEDIUM });
  for (const { x, y, width, depth } of all) {
    for (let along = 6; along < width - 3; along += 6) {
      for (const across of [0.9, depth - 1.3])
        plan.rectangle(...place(x + along, y + across), 400, 400, 'fill="#D5DAE0"');
    }
    drawDoor(plan, x + width * 0.3, y, 3.6);
    drawDoor(plan, x + width * 0.7, y, 1.2);
  }
  plan.layer('Building names', { colour: colours.ink, width: THIN });
  for (const { name, x, y, width, depth } of all) {
    plan.text(place(x + width / 2, y + depth + 2.2), name, textHeights.heading, { anchor: 'middle' });
  }
}

function drawDoor(plan: PlanWriter, x: number, y: number, width: number): void {
  plan.line([place(x, y), place(x, y - width)]);
  plan.arc(place(x, y - width), place(x + width, y), width * 1000, false, `stroke-width="${THIN}"`);
}

/** Slanted strokes at 45° within the thickness of the four walls. */
function hatchWalls(plan: PlanWriter, { x, y, width, depth }: Building): void {
  const step = 0.32;
  const strokes: Point[][] = [];
  for (let s = 0; s + WALL < width; s += step) {
    strokes.push([place(x + s, y), place(x + s + WALL, y + WALL)]);
    strokes.push([place(x + s, y + depth - WALL), place(x + s + WALL, y + depth)]);
  }
  for (let s = WALL; s + 2 * WALL < depth; s += step) {
    strokes.push([place(x, y + s), place(x + WALL, y + s + WALL)]);
    strokes.push([place(x + width - WALL, y + s), place(x + width, y + s + WALL)]);
  }
  for (let i = 0; i < strokes.length; i += 6) plan.lines(strokes.slice(i, i + 6));
}

/** What stands in the halls: screens, pumps, filter cells, membrane racks. */
export function drawEquipment(plan: PlanWriter): void {
  drawScreens(plan);
  drawPumps(plan);
  drawFilters(plan);
  drawRacks(plan);
  drawWalkways(plan);
  drawElectrical(plan);
  drawTanks(plan);
}

function drawScreens(plan: PlanWriter): void {
  const { x, y } = buildings.screenHouse;
  plan.layer('Screens', { colour: colours.steel, width: MEDIUM });
  for (let bay = 0; bay < 5; bay++) {
    const north = y + 3 + bay * 6.8;
    plan.rectangle(...place(x + 4, north), 20_000, 4800);
    for (let bar = 0; bar < 60; bar += 4) {
      const runs = [0, 1, 2, 3].map((k): Point[] => {
        const east = x + 8 + (bar + k) * 0.12;
        return [place(east, north + 0.3), place(east, north + 4.5)];
      });
      plan.lines(runs, `stroke-width="${THIN}"`);
    }
    plan.circle(place(x + 19, north + 2.4), 1500);
    plan.circle(place(x + 19, north + 2.4), 300);
    plan.text(place(x + 4.5, north + 5), `KS-SC-${101 + bay}`, textHeights.small);
  }
}

function drawPumps(plan: PlanWriter): void {
  const { x, y } = buildings.pumpHall;
  plan.layer('Pumps', { colour: colours.steel, width: MEDIUM });
  for (let i = 0; i < 8; i++) {
    const east = x + 6 + i * 7;
    const north = y + 14;
    plan.rectangle(...place(east - 1.6, north - 5), 3200, 10_000, `stroke-width="${THIN}"`);
    plan.circle(place(east, north - 2.4), 1300);
    plan.circle(place(east, north - 2.4), 500);
    plan.line(
      [
        place(east - 0.5, north - 1.1),
        place(east + 0.5, north - 1.1),
        place(east + 0.5, north + 0.4),
        place(east - 0.5, north + 0.4),
      ],
      true,
    );
    plan.rectangle(...place(east - 0.9, north + 0.4), 1800, 3400);
    for (let fin = 0; fin < 12; fin += 4) {
      plan.lines(
        [0, 1, 2, 3].map((k): Point[] => {
          const at = north + 0.7 + (fin + k) * 0.24;
          return [place(east - 0.8, at), place(east + 0.8, at)];
        }),
        `stroke-width="${THIN}"`,
      );
    }
    for (const [bx, by] of [
      [-1.3, -4.6],
      [1.3, -4.6],
      [-1.3, 4.6],
      [1.3, 4.6],
    ] as const)
      plan.circle(place(east + bx, north + by), 70);
    plan.text(place(east + 1.9, north - 4.6), `KS-PU-${201 + i}`, textHeights.small, { angle: 90 });
  }
  plan.layer('Gratings', { colour: colours.hatch, width: THIN });
  for (let i = 0; i < 116; i += 4) {
    plan.lines(
      [0, 1, 2, 3].map((k): Point[] => [place(x + 2 + (i + k) * 0.5, y + 24), place(x + 2 + (i + k) * 0.5, y + 31)]),
    );
  }
  for (let i = 0; i < 28; i += 4) {
    plan.lines(
      [0, 1, 2, 3].map((k): Point[] => [place(x + 2, y + 24 + (i + k) * 0.25), place(x + 60, y + 24 + (i + k) * 0.25)]),
    );
  }
}

function drawFilters(plan: PlanWriter): void {
  const { x, y } = buildings.filters;
  plan.layer('Filter cells', { colour: colours.water, width: MEDIUM });
  for (let column = 0; column < 8; column++) {
    for (let row = 0; row < 2; row++) {
      const east = x + 3 + column * 11.5;
      const north = y + 3 + row * 22;
      plan.rectangle(...place(east, north), 9500, 16_000);
      for (let i = 0; i < 11; i++) {
        for (let j = 0; j < 38; j++)
          plan.circle(place(east + 0.7 + i * 0.8, north + 0.6 + j * 0.4), 70, `stroke-width="${THIN / 2}"`);
      }
      plan.text(place(east + 4.75, north + 16.6), `KS-FI-${301 + column * 2 + row}`, textHeights.small, {
        anchor: 'middle',
      });
    }
  }
}

function drawRacks(plan: PlanWriter): void {
  const { x, y } = buildings.membraneHall;
  plan.layer('Membrane racks', { colour: colours.permeate, width: THIN });
  for (let train = 0; train < 14; train++) {
    for (let row = 0; row < 2; row++) {
      const east = x + 4 + train * 8;
      const north = y + 5 + row * 29;
      plan.rectangle(...place(east, north), 6400, 22_000, `stroke-width="${MEDIUM}"`);
      for (let vessel = 0; vessel < 16; vessel++) {
        const at = east + 0.35 + vessel * 0.37;
        plan.roundedRectangle(...place(at, north + 1.2), 220, 19_000, 110);
        plan.lines([
          [place(at + 0.11, north + 0.4), place(at + 0.11, north + 1.2)],
          [place(at + 0.11, north + 20.2), place(at + 0.11, north + 21.4)],
        ]);
        for (const port of [0.9, 19.6]) plan.circle(place(at + 0.11, north + port), 60);
        for (const joint of [4.6, 8.4, 12.2, 16])
          plan.line([place(at, north + 1.2 + joint), place(at + 0.22, north + 1.2 + joint)]);
      }
      plan.line([place(east + 0.2, north + 0.4), place(east + 6.2, north + 0.4)], false, `stroke-width="${MEDIUM}"`);
      plan.text(place(east + 3.2, north + 22.6), `KS-RO-${String(401 + train * 2 + row)}`, textHeights.small, {
        anchor: 'middle',
      });
    }
  }
}

/** Gratings of the walkways between the racks: bearing bars 300 mm apart, cross rods 1 m. */
function drawWalkways(plan: PlanWriter): void {
  const { x, y, width } = buildings.membraneHall;
  plan.layer('Walkways', { colour: colours.hatch, width: THIN / 2 });
  for (const north of [y + 28.4, y + 57.6]) {
    plan.rectangle(...place(x + 3, north), (width - 6) * 1000, 1500, `stroke-width="${THIN}"`);
    for (let s = 0.3; s < width - 7; s += 1.2) {
      plan.lines(
        [0, 0.3, 0.6, 0.9].map((k): Point[] => [place(x + 3 + s + k, north), place(x + 3 + s + k, north + 1.5)]),
      );
    }
  }
  for (let train = 0; train < 13; train++) {
    const east = x + 10.5 + train * 8;
    plan.rectangle(...place(east, y + 3), 1400, 54_000, `stroke-width="${THIN}"`);
    for (let s = 0.3; s < 52.6; s += 1.2) {
      plan.lines(
        [0, 0.3, 0.6, 0.9].map((k): Point[] => [place(east, y + 3 + s + k), place(east + 1.4, y + 3 + s + k)]),
      );
    }
  }
}

function drawElectrical(plan: PlanWriter): void {
  const { x, y } = buildings.substation;
  plan.layer('Electrical', { colour: colours.electric, width: MEDIUM });
  for (let i = 0; i < 22; i++) {
    const east = x + 3 + i * 1.75;
    plan.rectangle(...place(east, y + 15), 1600, 2200);
    plan.line([place(east, y + 16.1), place(east + 1.6, y + 16.1)], false, `stroke-width="${THIN}"`);
    plan.arc(place(east, y + 15), place(east + 1.6, y + 15), 800, false, `stroke-width="${THIN}"`);
  }
  for (let i = 0; i < 3; i++) {
    const east = x + 6 + i * 13;
    plan.rectangle(...place(east, y + 3), 7000, 5000);
    for (let fin = 0; fin < 20; fin += 4) {
      plan.lines(
        [0, 1, 2, 3].map((k): Point[] => [
          place(east + 0.4 + (fin + k) * 0.32, y + 8),
          place(east + 0.4 + (fin + k) * 0.32, y + 9.2),
        ]),
      );
    }
    plan.text(place(east, y + 1.2), `KS-TR-${501 + i}`, textHeights.small);
  }
}

function drawTanks(plan: PlanWriter): void {
  plan.layer('Tanks', { colour: colours.building, width: THICK });
  const tanks: [number, number, number, string][] = [
    [492, 262, 17, 'Product water 1'],
    [534, 262, 17, 'Product water 2'],
    [492, 220, 17, 'Product water 3'],
    [346, 338, 6, 'Lime'],
    [364, 338, 6, 'CO₂'],
  ];
  for (const [x, y, radius, name] of tanks) {
    plan.circle(place(x, y), radius * 1000);
    plan.circle(place(x, y), radius * 1000 - 350, `stroke-width="${MEDIUM}"`);
    for (let k = 0; k < 24; k++) {
      const angle = (k / 24) * 2 * Math.PI;
      const spoke = (reach: number): Point => place(x + Math.cos(angle) * reach, y + Math.sin(angle) * reach);
      plan.line([spoke(radius * 0.15), spoke(radius - 0.35)], false, `stroke-width="${THIN}"`);
    }
    plan.circle(place(x, y), radius * 150, `stroke-width="${THIN}"`);
    plan.text(place(x, y - radius - 3), name, textHeights.plain, { anchor: 'middle' });
  }
}
