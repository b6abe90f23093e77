import { seededRandom } from '@gull-pane/core/geometry/random';

/** Texts as they stand in a large set of plans of the works, and what people type when they look for some of them. */
export interface ManyTexts {
  readonly texts: readonly string[];
  readonly queries: readonly TextQuery[];
}

export interface TextQuery {
  readonly typed: string;
  /** The text that is meant. */
  readonly meant: string;
}

const places = ['Intake tower', 'Screen house', 'Pump hall', 'Membrane hall', 'Brine outfall', 'Chemical store'];
const things = [
  'Seawater pump',
  'Booster pump',
  'Cartridge filter',
  'Membrane rack',
  'Energy recovery unit',
  'Dosing skid',
  'Cable tray',
  'Drain pit',
  'Manhole',
  'Lighting mast',
  'Crane rail',
  'Sampling point',
  'Flow meter',
  'Air receiver',
  'Backwash tank',
  'Permeate header',
  'Brine channel',
  'Stop log guide',
  'Trash rake',
  'Potable water main',
];
const notes = [
  'anchored with four bolts',
  'grating removable',
  'see section',
  'to be checked on site',
  'not to scale',
  'fall to drain',
  'earthed at both ends',
  'lifting eye above',
  'access from the gantry',
  'coated inside',
];
const classes = ['VA', 'PU', 'FT', 'PT', 'LT', 'MO', 'TK', 'HX'];
const services = ['SW', 'PW', 'BR', 'CIP', 'AIR', 'DRN'];

/** @param count how many texts @param queries how many of them are looked for */
export function manyTexts(count: number, queries: number): ManyTexts {
  const random = seededRandom(11);
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const number = (digits: number): string => String(Math.floor(random() * 10 ** digits)).padStart(digits, '0');
  const tag = (): string => `KS-${one(classes)}-${number(4)}`;
  const pipe = (): string =>
    `${one(['80', '150', '300', '600', '1200'])}-${one(services)}-${number(4)}-${one(['A1', 'B2', 'C3'])}`;
  const label = (): string => `${one(places)}, ${one(things).toLowerCase()} ${1 + Math.floor(random() * 400)}`;
  const note = (): string => `${one(things)} ${number(3)}: ${one(notes)}`;
  const level = (): string => `+${(random() * 30).toFixed(3)}`;
  const texts = Array.from({ length: count }, () => {
    const kind = random();
    return kind < 0.25 ? tag() : kind < 0.45 ? pipe() : kind < 0.65 ? label() : kind < 0.85 ? note() : level();
  });
  const tags = texts.filter((text) => text.startsWith('KS-'));
  const others = texts.filter((text) => /^[A-Z][a-z]/.test(text));
  const asked = Array.from({ length: queries }, (_, i): TextQuery => {
    const isTag = i % 4 === 0;
    const meant = one(isTag ? tags : others);
    const isMistyped = i % 2 === 1 || i % 8 === 0;
    if (!isMistyped) return { typed: i % 3 === 0 ? meant.toLowerCase() : meant, meant };
    return { typed: isTag ? tagSlip(meant, i) : wordSlip(meant, random), meant };
  });
  return { texts, queries: asked };
}

/** Slips in tags that leave only one in mind: dashes forgotten, spaces for them, letters swapped. */
function tagSlip(tag: string, i: number): string {
  if (i % 3 === 0) return tag.replaceAll('-', '').toLowerCase();
  if (i % 3 === 1) return tag.replaceAll('-', ' ');
  return `SK${tag.slice(2)}`;
}

/** Swaps, drops or doubles a letter in one long word. */
function wordSlip(text: string, random: () => number): string {
  const words = text.split(' ');
  const long = words.flatMap((word, i) => (/^[a-z]{7,}/i.test(word) ? [i] : []));
  const at = long[Math.floor(random() * long.length)] ?? longestOf(words);
  const word = words[at]!;
  const k = 1 + Math.floor(random() * Math.min(word.length - 2, 5));
  const way = Math.floor(random() * 3);
  const slipped =
    way === 0
      ? word.slice(0, k) + word.charAt(k + 1) + word.charAt(k) + word.slice(k + 2)
      : way === 1
        ? word.slice(0, k) + word.slice(k + 1)
        : word.slice(0, k) + word.charAt(k) + word.slice(k);
  return [...words.slice(0, at), slipped, ...words.slice(at + 1)].join(' ');
}

const longestOf = (words: readonly string[]): number =>
  words.reduce((best, word, i) => (/^[a-z]+$/i.test(word) && word.length > words[best]!.length ? i : best), 0);
