/** Whole numbers as text: `3-17,20`. */

/** @param isIn asked for 0 … count − 1 @returns the numbers that are in, as ranges */
export function rangesOf(count: number, isIn: (number: number) => boolean): string {
  const parts: string[] = [];
  for (let from = 0; from < count; from++) {
    if (!isIn(from)) continue;
    let to = from;
    while (to + 1 < count && isIn(to + 1)) to++;
    parts.push(from === to ? String(from) : `${from}-${to}`);
    from = to;
  }
  return parts.join(',');
}

/** @param count numbers from here on are left out @throws RangeError if the text holds anything but ranges */
export function numbersOfRanges(text: string, count: number): number[] {
  if (text === '') return [];
  const numbers: number[] = [];
  for (const part of text.split(',')) {
    const match = /^(\d+)(?:-(\d+))?$/.exec(part);
    if (!match) throw new RangeError(`numbersOfRanges: “${part}” is no range`);
    const from = Number(match[1]);
    const to = Math.min(Number(match[2] ?? match[1]), count - 1);
    for (let number = from; number <= to; number++) numbers.push(number);
  }
  return numbers;
}
