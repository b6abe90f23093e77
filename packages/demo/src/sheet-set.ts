import { seededRandom } from '@gull-pane/core/geometry/random';
import { writePdf, type WrittenPage } from './write-pdf.ts';

/** As the demo has it. */
export const DETAIL_SHEETS_NAME = 'Kelpie Sound · standard details';
export const SHEET_SET_NAME = 'Kelpie Sound · pump sheets';

/** A3 across, points. */
const SIZE: readonly [number, number] = [1190.55, 841.89];
const MARGIN = 28;
const titles = ['Sea water pump, general', 'Valve schedule', 'Pump base, plan', 'Suction manifold', 'Discharge header'];

const line = (...xy: number[]): string =>
  xy.reduce((text, value, i) => `${text}${value.toFixed(2)} ${i % 2 === 0 ? '' : i === 1 ? 'm ' : 'l '}`, '') + 'S\n';
const box = (x: number, y: number, w: number, h: number, paint = 'S'): string =>
  `${[x, y, w, h].map((value) => value.toFixed(2)).join(' ')} re ${paint}\n`;
const text = (x: number, y: number, size: number, content: string, face = 'F1'): string =>
  `BT /${face} ${size} Tf ${x.toFixed(2)} ${y.toFixed(2)} Td (${content.replace(/[()\\]/g, '\\$&')}) Tj ET\n`;
/** A circle of four cubics (the usual 0.5523 of the radius). */
function circle(x: number, y: number, r: number, paint = 'S'): string {
  const k = 0.5522847 * r;
  const n = (...values: number[]): string => values.map((value) => value.toFixed(3)).join(' ');
  return (
    `${n(x + r, y)} m ${n(x + r, y + k, x + k, y + r, x, y + r)} c ${n(x - k, y + r, x - r, y + k, x - r, y)} c ` +
    `${n(x - r, y - k, x - k, y - r, x, y - r)} c ${n(x + k, y - r, x + r, y - k, x + r, y)} c h ${paint}\n`
  );
}
const layer = (number: number, content: string): string => `/OC /G${number} BDC q\n${content}Q EMC\n`;

/** Pages of piping details for the sea water pumps, each with border, title block and its own drawing; a PDF. */
export function sheetSet(): Uint8Array<ArrayBuffer> {
  const pages = titles.map((title, index): WrittenPage => ({ size: SIZE, content: page(title, index) }));
  return writePdf({
    pages,
    groups: [{ name: 'Border and title' }, { name: 'Equipment' }, { name: 'Axes' }, { name: 'Remarks', isOff: true }],
  });
}

function page(title: string, index: number): string {
  const [width, height] = SIZE;
  const [right, top] = [width - MARGIN, height - MARGIN];
  const border =
    `1.4 w ${box(MARGIN, MARGIN, right - MARGIN, top - MARGIN)}0.5 w ${box(right - 360, MARGIN, 360, 90)}` +
    line(right - 360, MARGIN + 45, right, MARGIN + 45) +
    text(right - 350, MARGIN + 66, 11, 'Kelpie Sound Desalination Works', 'F2') +
    text(right - 350, MARGIN + 52, 8, 'Sea water intake and pumps') +
    text(right - 350, MARGIN + 22, 14, title, 'F2') +
    text(right - 70, MARGIN + 22, 11, `${index + 1} of ${titles.length}`) +
    text(right - 350, MARGIN + 8, 7, `KS-ME-21${String(index + 1).padStart(2, '0')} rev C`);
  const drawn = index === 1 ? schedule() : equipment(index);
  const remark = text(90, 96, 10, 'Check the anchor bolts against the maker’s sheet.'.replace('’', "'"));
  return (
    layer(0, border) + layer(1, drawn) + (index === 1 ? '' : layer(2, axes(index))) + layer(3, `0.7 0 0 rg ${remark}`)
  );
}

function schedule(): string {
  const random = seededRandom(21);
  const columns = [80, 190, 330, 430, 620, 800];
  const heads = ['Tag', 'Kind', 'DN', 'Service', 'Maker', 'Weight'];
  const kinds = ['Butterfly', 'Check', 'Gate', 'Ball'];
  let content = '0.4 w ';
  heads.forEach((head, column) => (content += text(columns[column]!, 770, 10, head, 'F2')));
  content += line(75, 764, 1100, 764);
  for (let row = 0; row < 36; row++) {
    const y = 748 - 16 * row;
    const kind = kinds[Math.floor(random() * kinds.length)]!;
    const cells = [`KS-VA-${String(410 + row).padStart(4, '0')}`, kind, String(100 + 50 * Math.floor(random() * 9))];
    cells.push('Sea water, PN 10', 'Marram Valves', `${(20 + random() * 400).toFixed(0)} kg`);
    cells.forEach((cell, column) => (content += text(columns[column]!, y, 9, cell)));
    content += line(75, y - 5, 1100, y - 5);
  }
  return content;
}

function equipment(index: number): string {
  const [x, y, r] = [430, 450, 150 - 12 * index];
  let content = `1 w ${circle(x, y, r)}${circle(x, y, r - 14)}0.85 0.9 0.93 rg ${circle(x, y, 40, 'B')}`;
  for (let bolt = 0; bolt < 8 + 2 * index; bolt++) {
    const turn = (2 * Math.PI * bolt) / (8 + 2 * index);
    content += circle(x + (r - 7) * Math.cos(turn), y + (r - 7) * Math.sin(turn), 5, 'S');
  }
  content += box(x - r - 40, y - r - 46, 2 * r + 80, 34) + box(720, y - 90, 260, 180);
  for (let rib = 0; rib < 12; rib++) content += line(732 + 20 * rib, y - 90, 732 + 20 * rib, y + 90);
  content += `2.2 w ${line(x + r, y, 720, y)}${line(x, y + r, x, y + r + 110, 1060, y + r + 110)}`;
  return (
    content + text(x - 40, y - r - 34, 12, `P-${101 + index}`, 'F2') + text(738, y + 100, 10, 'Motor 355 kW, 1480 rpm')
  );
}

const axes = (index: number): string =>
  `0.3 w [14 4 3 4] 0 d 0.1 0.35 0.6 RG ${line(200, 450, 1040, 450)}${line(430, 200, 430, 780 - 10 * index)}`;
