import type { PlanWriter, Point } from './plan-writer.ts';
import { buildings } from './buildings.ts';
import { place } from './terrain.ts';
import { MEDIUM, THIN, colours, textHeights } from './works.ts';

/** Roads with kerbs and parking, fence, drains. */
export function drawGrounds(plan: PlanWriter): void {
  plan.layer('Kerbs', { colour: colours.road, width: MEDIUM });
  const loop = [168, 118, 552, 356] as const;
  for (const inset of [0, 7]) drawRoundedLoop(plan, loop, inset, 14 - inset);
  for (const inset of [0.35, 6.65]) drawRoundedLoop(plan, loop, inset, 14 - inset, `stroke-width="${THIN}"`);
  plan.lines([
    [place(552, 148), place(582, 148)],
    [place(552, 155), place(582, 155)],
  ]);
  plan.lines([
    [place(312, 125), place(312, 197)],
    [place(319, 125), place(319, 197)],
  ]);

  plan.layer('Road markings', { colour: colours.road, width: THIN, dashes: [3000, 3000] });
  drawRoundedLoop(plan, loop, 3.5, 10.5);
  plan.line([place(552, 151.5), place(582, 151.5)]);

  plan.layer('Parking', { colour: colours.road, width: THIN });
  for (const [x, y, count] of [
    [470, 336, 18],
    [340, 128, 40],
    [182, 128, 10],
  ] as const) {
    for (let i = 0; i <= count; i++) plan.line([place(x + i * 2.5, y), place(x + i * 2.5, y + 5)]);
    plan.line([place(x, y + 5), place(x + count * 2.5, y + 5)]);
  }

  plan.layer('Paving', { colour: colours.hatch, width: THIN / 2 });
  const { offices } = buildings;
  for (let i = 0; i < 92; i += 4) {
    plan.lines(
      [0, 1, 2, 3].map((k): Point[] => [
        place(offices.x + (i + k) * 0.5, offices.y - 9),
        place(offices.x + (i + k) * 0.5, offices.y - 2),
      ]),
    );
  }
  for (let j = 0; j < 16; j += 4) {
    plan.lines(
      [0, 1, 2, 3].map((k): Point[] => [
        place(offices.x, offices.y - 9 + (j + k) * 0.45),
        place(offices.x + 46, offices.y - 9 + (j + k) * 0.45),
      ]),
    );
  }

  plan.layer('Solar field', { colour: colours.permeate, width: THIN / 2 });
  for (let row = 0; row < 6; row++) {
    for (let table = 0; table < 34; table++) {
      const [x, y] = [386 + table * 2.3, 323 + row * 4.6];
      plan.rectangle(...place(x, y), 2100, 3400, `stroke-width="${THIN}"`);
      plan.lines([1, 2, 3, 4, 5].map((k): Point[] => [place(x, y + k * 0.567), place(x + 2.1, y + k * 0.567)]));
      plan.line([place(x + 1.05, y), place(x + 1.05, y + 3.4)]);
    }
  }
  plan.text(place(388, 351.6), 'Solar field, 1 224 modules', textHeights.plain);

  plan.layer('Fence', { colour: colours.ink, width: THIN });
  const fence: Point[] = [
    [150, 104],
    [574, 104],
    [574, 374],
    [150, 374],
  ];
  fence.forEach(([x0, y0], i) => {
    const [x1, y1] = fence[(i + 1) % 4]!;
    if (i === 3) return; // the sea side stays open to the revetment
    const length = Math.hypot(x1 - x0, y1 - y0);
    plan.line([place(x0, y0), place(x1, y1)]);
    for (let s = 0; s < length; s += 2.5)
      plan.circle(place(x0 + ((x1 - x0) * s) / length, y0 + ((y1 - y0) * s) / length), 60);
  });

  plan.layer('Drains', { colour: colours.water, width: THIN, dashes: [2000, 600, 400, 600] });
  for (const y of [112, 200, 362]) {
    plan.line([place(176, y), place(560, y)]);
    for (let x = 190; x < 560; x += 30) {
      plan.circle(place(x, y), 600, 'stroke-dasharray="none"');
      plan.rectangle(...place(x - 0.3, y - 0.3), 600, 600, 'stroke-dasharray="none"');
      plan.text(place(x + 1, y + 0.8), `KS-MH-${600 + Math.round(x) + y}`, textHeights.small);
    }
  }
}

function drawRoundedLoop(
  plan: PlanWriter,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  inset: number,
  radius: number,
  extra = '',
): void {
  const [width, height] = [(x1 - x0 - 2 * inset) * 1000, (y1 - y0 - 2 * inset) * 1000];
  plan.roundedRectangle(...place(x0 + inset, y0 + inset), width, height, radius * 1000, extra);
}

/** Overall dimensions with extension lines, slanted ticks and figures in millimetres. */
export function drawDimensions(plan: PlanWriter): void {
  plan.layer('Dimensions', { colour: colours.dimension, width: THIN });
  for (const { x, y, width, depth } of Object.values(buildings)) {
    dimension(plan, [x, y], [x + width, y], -7);
    dimension(plan, [x + width, y], [x + width, y + depth], -4.5);
    const bays = Math.floor(width / 6);
    for (let bay = 0; bay < bays; bay++) dimension(plan, [x + bay * 6, y], [x + bay * 6 + 6, y], -4.2);
  }
}

function dimension(plan: PlanWriter, a: Point, b: Point, away: number): void {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const at = (along: number, across: number): Point =>
    place(a[0] + ux * along - uy * across, a[1] + uy * along + ux * across);
  const sign = Math.sign(away);
  plan.lines([
    [at(0, sign * 0.8), at(0, away + sign * 0.8)],
    [at(length, sign * 0.8), at(length, away + sign * 0.8)],
  ]);
  plan.line([at(-0.6, away), at(length + 0.6, away)]);
  for (const end of [0, length])
    plan.line([at(end - 0.45, away - 0.45), at(end + 0.45, away + 0.45)], false, `stroke-width="${MEDIUM}"`);
  const figure = Math.round(length * 1000)
    .toLocaleString('en')
    .replaceAll(',', ' ');
  plan.text(at(length / 2, away + 0.4), figure, textHeights.small, {
    anchor: 'middle',
    angle: (Math.atan2(uy, ux) * 180) / Math.PI,
    colour: colours.dimension,
  });
}
