import type { PlanWriter, Point } from './plan-writer.ts';
import { buildings } from './buildings.ts';
import { place, shoreAt } from './terrain.ts';
import { MEDIUM, THICK, THIN, colours, textHeights } from './works.ts';

type Random = () => number;

/** A run of pipe through corner points (metres), drawn by its two sides and centre line, with flanges and bends. */
function drawPipe(plan: PlanWriter, corners: readonly Point[], diameter: number, flangeEvery = 6): void {
  const half = diameter / 2;
  for (let i = 0; i + 1 < corners.length; i++) {
    const [x0, y0] = corners[i]!;
    const [x1, y1] = corners[i + 1]!;
    const length = Math.hypot(x1 - x0, y1 - y0);
    const [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length];
    const at = (along: number, across: number): Point =>
      place(x0 + ux * along - uy * across, y0 + uy * along + ux * across);
    const from = i > 0 ? diameter : 0;
    const to = i + 2 < corners.length ? length - diameter : length;
    plan.lines([
      [at(from, half), at(to, half)],
      [at(from, -half), at(to, -half)],
    ]);
    plan.line([at(0, 0), at(length, 0)], false, `stroke-width="${THIN / 2}" stroke-dasharray="1200 300 200 300"`);
    for (let s = from + flangeEvery; s < to - 1; s += flangeEvery) {
      for (const shift of [-0.05, 0.05])
        plan.line([at(s + shift, -half - 0.12), at(s + shift, half + 0.12)], false, `stroke-width="${THIN}"`);
    }
    if (i + 2 < corners.length) {
      const [x2, y2] = corners[i + 2]!;
      const turn = Math.sign(ux * (y2 - y1) - uy * (x2 - x1));
      const next = Math.hypot(x2 - x1, y2 - y1);
      const [vx, vy] = [(x2 - x1) / next, (y2 - y1) / next];
      for (const side of [-half, half]) {
        const a = at(to, side);
        const b = place(x1 + vx * diameter - vy * side, y1 + vy * diameter + vx * side);
        plan.arc(a, b, (diameter - turn * side) * 1000, turn < 0);
      }
    }
  }
}

/** A valve seen from above: two cones, the stem with its handwheel, and the tag with a leader. */
function drawValve(
  plan: PlanWriter,
  x: number,
  y: number,
  size: number,
  tag: string,
  angle: number,
  reach: number,
): void {
  const turn = (angle * Math.PI) / 180;
  const at = (along: number, across: number): Point =>
    place(x + along * Math.cos(turn) - across * Math.sin(turn), y + along * Math.sin(turn) + across * Math.cos(turn));
  plan.line([at(-size, -size * 0.6), at(size, size * 0.6), at(size, -size * 0.6), at(-size, size * 0.6)], true);
  plan.line([at(0, 0), at(0, size * 1.1)]);
  plan.circle(at(0, size * 1.5), size * 400);
  plan.circle(at(0, size * 1.5), size * 80);
  plan.line([at(0, -size * 0.3), place(x + 1.5, y - reach), place(x + 2, y - reach)], false, `stroke-width="${THIN}"`);
  plan.text(place(x + 2.2, y - reach - 0.45), tag, textHeights.small);
}

/** Intake, corridor, branches and outfall, with their tagged valves. */
export function drawPipework(plan: PlanWriter, random: Random): void {
  const shore = shoreAt(240);
  plan.layer('Intake tunnel', { colour: colours.seawater, width: MEDIUM, dashes: [2500, 1000] });
  plan.lines([
    [place(46, 246.8), place(150, 246.8)],
    [place(46, 243.2), place(150, 243.2)],
  ]);
  plan.layer('Intake tower', { colour: colours.seawater, width: THICK });
  for (const radius of [7, 5.2, 1.9]) plan.circle(place(42, 245), radius * 1000);
  for (let k = 0; k < 48; k++) {
    const angle = (k / 48) * 2 * Math.PI;
    const spoke = (reach: number): Point => place(42 + Math.cos(angle) * reach, 245 + Math.sin(angle) * reach);
    plan.line([spoke(5.2), spoke(7)], false, `stroke-width="${THIN}"`);
  }
  plan.text(place(42, 255), 'Intake tower', textHeights.heading, { anchor: 'middle' });
  plan.text(place((shore + 46) / 2, 248), 'Intake tunnel DN 3600, invert −14.0', textHeights.plain, {
    anchor: 'middle',
  });

  plan.layer('Seawater pipes', { colour: colours.seawater, width: MEDIUM });
  for (let i = 0; i < 4; i++)
    drawPipe(
      plan,
      [
        [180, 232 + i * 7],
        [206, 232 + i * 3.4],
      ],
      1.2,
    );
  for (let i = 0; i < 4; i++)
    drawPipe(
      plan,
      [
        [212 + i * 14, 248],
        [212 + i * 14, 264 + i * 2.6],
        [320, 264 + i * 2.6],
        [320, 222 + i * 3],
        [330, 222 + i * 3],
      ],
      0.9,
    );
  for (let i = 0; i < 4; i++)
    drawPipe(
      plan,
      [
        [226 + i * 18, 264 + i * 2.6],
        [226 + i * 18, 282],
      ],
      0.7,
    );

  plan.layer('Permeate pipes', { colour: colours.permeate, width: MEDIUM });
  for (let i = 0; i < 3; i++)
    drawPipe(
      plan,
      [
        [352 + i * 36, 267],
        [352 + i * 36, 276 + i * 2.4],
        [462, 276 + i * 2.4],
        [462, 258 - i * 20],
        [475, 258 - i * 20],
      ],
      0.8,
    );
  for (let i = 0; i < 2; i++)
    drawPipe(
      plan,
      [
        [400 + i * 24, 280],
        [400 + i * 24, 290],
      ],
      0.6,
    );
  drawPipe(
    plan,
    [
      [534, 245],
      [534, 180],
      [578, 180],
    ],
    1.4,
  );

  plan.layer('Brine pipes', { colour: colours.brine, width: MEDIUM });
  drawPipe(
    plan,
    [
      [360, 205],
      [360, 186],
      [300, 186],
      [190, 186],
      [150, 112],
      [40, 86],
    ],
    1.6,
    8,
  );
  for (let i = 0; i < 6; i++)
    drawPipe(
      plan,
      [
        [340 + i * 18, 205],
        [340 + i * 18, 192],
      ],
      0.5,
    );
  drawPipe(
    plan,
    [
      [340, 192],
      [440, 192],
    ],
    0.9,
  );
  plan.text(place(72, 100), 'Brine outfall DN 1600', textHeights.plain, { angle: 14 });
  for (let i = 0; i < 9; i++) plan.circle(place(40 + i * 5, 86 + i * 1.18), 450);

  plan.layer('Valves', { colour: colours.dimension, width: THIN });
  let number = 401;
  const tag = (): string => `KS-VA-${String(number++).padStart(4, '0')}`;
  for (let i = 0; i < 4; i++) {
    for (const x of [184.5, 200]) drawValve(plan, x, 232 + i * 7 - ((x - 180) / 26) * i * 3.6, 0.9, tag(), -8 * i, 2.2);
  }
  for (let i = 0; i < 4; i++)
    for (let k = 0; k < 9; k++) drawValve(plan, 218 + k * 11.3 + i * 2.4, 264 + i * 2.6, 0.65, tag(), 0, 1.15);
  for (let i = 0; i < 4; i++) drawValve(plan, 226 + i * 18, 277.5, 0.55, tag(), 90, 0.8);
  for (let i = 0; i < 3; i++)
    for (let k = 0; k < 9; k++) drawValve(plan, 356 + k * 11.6 + i * 2.2, 276 + i * 2.4, 0.6, tag(), 0, 1.05);
  for (let i = 0; i < 6; i++) drawValve(plan, 340 + i * 18, 198, 0.5, tag(), 90, 0.7);
  for (let k = 0; k < 9; k++) drawValve(plan, 206 + k * 14, 186, 1.1, tag(), 0, 2.4);
  const { membraneHall } = buildings;
  for (let train = 0; train < 14; train++) {
    for (const row of [0, 1])
      drawValve(
        plan,
        membraneHall.x + 5.5 + train * 8,
        membraneHall.y + 3.4 + row * 29,
        0.35,
        tag(),
        0,
        0.5 + random() * 0.05,
      );
  }
}

/** Cable trays with their rungs. */
export function drawTrays(plan: PlanWriter): void {
  plan.layer('Cable trays', { colour: colours.electric, width: THIN });
  const runs: [number, number, number, number][] = [
    [228, 164, 228, 214],
    [229, 176, 324, 176],
    [324, 176, 324, 300],
    [324, 300, 330, 300],
    [324, 210, 330, 210],
    [268, 230, 324, 230],
    [250, 152, 270, 152],
    [324, 272, 470, 272],
    [456, 272, 456, 318],
    [456, 318, 470, 318],
    [302, 304, 324, 304],
    [204, 176, 228, 176],
    [204, 176, 204, 300],
  ];
  for (const [x0, y0, x1, y1] of runs) {
    const length = Math.hypot(x1 - x0, y1 - y0);
    const [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length];
    const at = (along: number, across: number): Point =>
      place(x0 + ux * along - uy * across, y0 + uy * along + ux * across);
    plan.lines(
      [
        [at(0, 0.3), at(length, 0.3)],
        [at(0, -0.3), at(length, -0.3)],
      ],
      `stroke-width="${MEDIUM}"`,
    );
    for (let s = 0.2; s < length; s += 1) {
      plan.lines(
        [0, 0.25, 0.5, 0.75].filter((k) => s + k < length).map((k): Point[] => [at(s + k, -0.3), at(s + k, 0.3)]),
      );
    }
  }
}
