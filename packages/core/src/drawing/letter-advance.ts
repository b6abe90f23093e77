import type { TextMark } from './model.ts';

/**
 * How far the pen moves for a letter, thousandths of the em square, of the face that the application ships and draws with
 * (Source Sans 3, without kerning), from U+0020 to U+007E. Importers have no fonts, but must place letters one by one.
 */
// prettier-ignore
const regular = [200, 289, 426, 497, 497, 824, 609, 249, 303, 303, 418, 497, 249, 311, 249, 350, 497, 497, 497, 497, 497, 497, 497, 497, 497, 497, 249, 249, 497, 497, 497, 425, 847, 543, 588, 571, 615, 527, 494, 617, 652, 263, 479, 579, 486, 727, 647, 664, 566, 664, 569, 534, 536, 645, 515, 786, 513, 476, 539, 303, 350, 303, 497, 500, 542, 504, 553, 456, 555, 496, 292, 504, 544, 246, 247, 495, 255, 829, 547, 542, 555, 555, 347, 419, 338, 544, 467, 719, 446, 467, 425, 303, 241, 303, 497];
// prettier-ignore
const bold = [200, 340, 537, 528, 528, 857, 667, 300, 344, 344, 457, 528, 300, 332, 300, 339, 528, 528, 528, 528, 528, 528, 528, 528, 528, 528, 300, 300, 528, 528, 528, 463, 902, 573, 605, 582, 635, 548, 524, 638, 674, 301, 509, 614, 518, 762, 665, 684, 596, 684, 613, 556, 556, 665, 556, 813, 567, 525, 541, 344, 339, 344, 528, 500, 555, 527, 573, 468, 573, 518, 341, 534, 571, 276, 278, 548, 286, 857, 572, 555, 573, 573, 398, 443, 383, 568, 523, 776, 514, 521, 460, 344, 268, 344, 528];
const FIRST = 0x20;
/** What letters outside the table take: the mean of the table's small letters. */
const OTHER = 500;

/** @returns the advance in the unit of `fontSize` */
export function letterAdvance(letter: string, fontSize: number, isBold: boolean): number {
  const advance = (isBold ? bold : regular)[(letter.codePointAt(0) ?? 0) - FIRST] ?? OTHER;
  return (advance / 1000) * fontSize;
}

/** Share of the em square above and below the baseline that the letters of that face take. */
const ASCENT = 0.75;
const DESCENT = 0.22;

/**
 * The frame round a text as it stands in the drawing: four corners, x, y pairs anticlockwise, drawing units.
 * @param mark anchored on its baseline
 */
export function textFrame({ text, x, y, size, angleRad, anchor, weight }: TextMark): number[] {
  let width = 0;
  for (const letter of text) width += letterAdvance(letter, size, weight === 'bold');
  const begin = anchor === 'middle' ? -width / 2 : anchor === 'end' ? -width : 0;
  const [cos, sin] = [Math.cos(angleRad), Math.sin(angleRad)];
  const corner = (along: number, up: number): [number, number] => [
    x + along * cos - up * sin,
    y + along * sin + up * cos,
  ];
  const [low, high] = [-DESCENT * size, ASCENT * size];
  return [...corner(begin, low), ...corner(begin + width, low), ...corner(begin + width, high), ...corner(begin, high)];
}
