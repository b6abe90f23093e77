/** Sizes of paper: series A of ISO 216:2007, and ANSI/ASME Y14.1; short and long side, mm. */
const sides = {
  A4: [210, 297],
  A3: [297, 420],
  A2: [420, 594],
  A1: [594, 841],
  A0: [841, 1189],
  'ANSI A': [215.9, 279.4],
  'ANSI B': [279.4, 431.8],
  'ANSI C': [431.8, 558.8],
  'ANSI D': [558.8, 863.6],
  'ANSI E': [863.6, 1117.6],
} as const;

export type PaperName = keyof typeof sides;
export const paperNames = Object.keys(sides) as readonly PaperName[];

export interface PaperSize {
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Paper is at least so large, and at most: what roll plotters take. */
export const [LEAST_SIDE_MM, MOST_SIDE_MM] = [100, 5000] as const;

/** A size of paper, upright or lying; mm. */
export function paperSize(name: PaperName, isUpright: boolean): PaperSize {
  const [short, long] = sides[name];
  return isUpright ? { widthMm: short, heightMm: long } : { widthMm: long, heightMm: short };
}

/** What a size is called; null for one of its own. */
export function paperNameOf({ widthMm, heightMm }: PaperSize): PaperName | null {
  const [short, long] = [Math.min(widthMm, heightMm), Math.max(widthMm, heightMm)];
  return paperNames.find((name) => sides[name][0] === short && sides[name][1] === long) ?? null;
}
