import type { PlanWriter, Point } from './plan-writer.ts';
import { MEDIUM, SHEET_EAST, SHEET_HEIGHT, SHEET_NORTH, SHEET_WIDTH, THIN, colours, textHeights } from './works.ts';

type Random = () => number;

/** A place in metres from the sheet's lower left corner, on the grid in millimetres. */
export const place = (x: number, y: number): Point => [SHEET_EAST + x * 1000, SHEET_NORTH + y * 1000];

/** East of the shore line, metres, at a northing in metres. */
export const shoreAt = (y: number): number =>
  118 + 16 * Math.sin(y / 61) + 7 * Math.sin(y / 23 + 1) + 3 * Math.sin(y / 9 + 2);

const insideTop = 400;
const insideBottom = 42;
const northings = (step: number): number[] =>
  Array.from({ length: Math.floor((insideTop - insideBottom) / step) + 1 }, (_, i) => insideBottom + i * step);

/** Sea, shore, boulders of the revetment, contours and trees. */
export function drawTerrain(plan: PlanWriter, random: Random): void {
  plan.layer('Depth lines', { colour: colours.seaLine, width: THIN, dashes: [3000, 1500] });
  for (let depth = 1; depth <= 9; depth++) {
    const away = depth * 9.5 + depth * depth * 0.25;
    const east = (y: number): number => shoreAt(y) - away - 4 * Math.sin(y / 47 + depth);
    const line = northings(6)
      .filter((y) => east(y) > 24)
      .map((y) => place(east(y), y));
    plan.smooth(line);
    if (depth % 2 === 0)
      plan.text(line[Math.min(12 + depth * 4, line.length - 1)]!, `−${depth}.0`, textHeights.small, {
        colour: colours.seaLine,
      });
  }

  plan.layer('Shore', { colour: colours.water, width: MEDIUM });
  plan.smooth(northings(2).map((y) => place(shoreAt(y), y)));
  for (let i = 0; i < 4300; i++) {
    const y = insideBottom + random() * (insideTop - insideBottom);
    const x = shoreAt(y) + 1 + random() * 9;
    const size = 0.35 + random() * 0.75;
    const corners = 5 + Math.floor(random() * 3);
    const boulder = Array.from({ length: corners }, (_, k): Point => {
      const angle = ((k + random() * 0.5) / corners) * 2 * Math.PI;
      return place(x + Math.cos(angle) * size, y + Math.sin(angle) * size * 0.8);
    });
    plan.line(boulder, true, `stroke-width="${THIN}"`);
  }

  plan.layer('Contours', { colour: colours.earth, width: THIN });
  for (let level = 1; level <= 26; level++) {
    const isIndex = level % 5 === 0;
    const base = 9 + level * 4.6 + (level > 9 ? (level - 9) * 15 : 0);
    const line = northings(7).map((y) => {
      const wave = 6 * Math.sin(y / 39 + level / 3) + 3 * Math.sin(y / 15 + level) + 10 * Math.sin(y / 120 + level / 7);
      return place(Math.min(shoreAt(y) * 0.6 + 47 + base + wave, 578), y);
    });
    plan.smooth(line, false, isIndex ? `stroke-width="${MEDIUM}"` : '');
    if (isIndex) plan.text(line[20]!, `${level / 2}.0`, textHeights.small, { colour: colours.earth, angle: 80 });
  }

  plan.layer('Planting', { colour: colours.green, width: THIN });
  for (let i = 0; i < 420; i++) {
    const isNorth = i % 3 !== 0;
    const centre = isNorth ? [150 + random() * 420, 381 + random() * 14] : [560 + random() * 20, 60 + random() * 310];
    drawTree(plan, random, centre[0]!, centre[1]!);
  }
}

function drawTree(plan: PlanWriter, random: Random, x: number, y: number): void {
  const size = 1.4 + random() * 1.8;
  const crown = Array.from({ length: 9 }, (_, k): Point => {
    const angle = (k / 9) * 2 * Math.PI;
    const reach = size * (0.82 + random() * 0.3);
    return place(x + Math.cos(angle) * reach, y + Math.sin(angle) * reach);
  });
  plan.smooth(crown, true);
  plan.circle(place(x, y), 180);
}

/** Grid lines with their coordinates, sheet frame and title block. */
export function drawSheet(plan: PlanWriter): void {
  plan.layer('Grid', { colour: colours.grid, width: THIN, dashes: [6000, 1500, 500, 1500] });
  for (let x = 50; x < 590; x += 50) {
    plan.line([place(x, 20), place(x, 410)]);
    plan.text(
      place(x + 0.8, 12.6),
      `E ${(SHEET_EAST / 1000 + x).toLocaleString('en').replaceAll(',', ' ')}`,
      textHeights.small,
    );
  }
  for (let y = 50; y < 420; y += 50) {
    plan.line([place(20, y), place(584, y)]);
    plan.text(
      place(12.4, y - 8),
      `N ${(SHEET_NORTH / 1000 + y).toLocaleString('en').replaceAll(',', ' ')}`,
      textHeights.small,
      { angle: 90 },
    );
  }

  plan.layer('Sheet frame', { colour: colours.ink, width: MEDIUM });
  plan.rectangle(SHEET_EAST, SHEET_NORTH, SHEET_WIDTH, SHEET_HEIGHT, `stroke-width="${THIN}"`);
  plan.rectangle(
    SHEET_EAST + 10_000,
    SHEET_NORTH + 10_000,
    SHEET_WIDTH - 20_000,
    SHEET_HEIGHT - 20_000,
    'stroke-width="350"',
  );
  for (let i = 1; i < 16; i++) {
    const x = (i * 594.5) / 16;
    plan.lines([
      [place(x, 5), place(x, 10)],
      [place(x, 410.5), place(x, 415.5)],
    ]);
    plan.text(place(x - 18.6, 5.8), String(i), textHeights.plain, { anchor: 'middle' });
  }
  for (let i = 1; i < 12; i++) {
    const y = (i * 420.5) / 12;
    plan.lines([
      [place(5, y), place(10, y)],
      [place(584.5, y), place(589.5, y)],
    ]);
    plan.text(place(7.5, y - 18.4), String.fromCharCode(64 + i), textHeights.plain, { anchor: 'middle' });
  }
  drawTitleBlock(plan);
  drawNorthAndBar(plan);
}

function drawTitleBlock(plan: PlanWriter): void {
  plan.layer('Title block', { colour: colours.ink, width: MEDIUM });
  const [left, bottom, width, height] = [494.5, 10.5, 90, 30];
  plan.rectangle(...place(left, bottom), width * 1000, height * 1000, 'fill="#FFFDF8"');
  for (const y of [5, 10, 19])
    plan.line([place(left, bottom + y), place(left + width, bottom + y)], false, `stroke-width="${THIN}"`);
  for (const x of [22, 45, 68])
    plan.line([place(left + x, bottom), place(left + x, bottom + 10)], false, `stroke-width="${THIN}"`);
  plan.text(place(left + 2, bottom + 22), 'Kelpie Sound Desalination Works', textHeights.heading);
  plan.text(place(left + 2, bottom + 12), 'Site general arrangement', textHeights.title);
  const cells: [string, string][] = [
    ['Drawing', 'KS-GA-0001'],
    ['Scale', '1:500 (A0)'],
    ['Datum', 'Kelpie grid'],
    ['Issue', 'C · 2026'],
  ];
  cells.forEach(([label, value], i) => {
    plan.text(place(left + 1 + i * 22.7, bottom + 7), label, textHeights.small);
    plan.text(place(left + 1 + i * 22.7, bottom + 1.6), value, textHeights.small);
  });
}

function drawNorthAndBar(plan: PlanWriter): void {
  plan.circle(place(40, 380), 9000);
  plan.line([place(40, 392), place(36, 372), place(40, 376), place(44, 372)], true, 'fill="#16324A"');
  plan.text(place(40, 394), 'N', textHeights.large, { anchor: 'middle' });
  for (let i = 0; i < 5; i++) plan.rectangle(...place(24 + i * 10, 20), 10_000, 1500, i % 2 ? '' : 'fill="#16324A"');
  for (let i = 0; i <= 5; i++)
    plan.text(place(24 + i * 10, 22.6), String(i * 10), textHeights.small, { anchor: 'middle' });
  plan.text(place(78, 20), 'm', textHeights.small);
}
