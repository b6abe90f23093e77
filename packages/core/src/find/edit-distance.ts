/**
 * How many slips lead from one word to another: letters left out, added, changed, or two neighbours swapped (optimal string
 * alignment; F. Damerau, "A technique for computer detection and correction of spelling errors", CACM 7, 1964).
 * @param most beyond so many it isn't counted on
 * @returns most + 1 where there are more
 */
export function editDistance(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before = new Uint8Array(b.length + 1);
  let last = Uint8Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = new Uint8Array(b.length + 1);
    row[0] = i;
    let least = i;
    for (let j = 1; j <= b.length; j++) {
      const isSame = a.charCodeAt(i - 1) === b.charCodeAt(j - 1);
      let cost = Math.min(last[j - 1]! + (isSame ? 0 : 1), last[j]! + 1, row[j - 1]! + 1);
      const isSwapped =
        i > 1 && j > 1 && a.charCodeAt(i - 1) === b.charCodeAt(j - 2) && a.charCodeAt(i - 2) === b.charCodeAt(j - 1);
      if (isSwapped) cost = Math.min(cost, before[j - 2]! + 1);
      row[j] = cost;
      if (cost < least) least = cost;
    }
    if (least > most) return most + 1;
    [before, last] = [last, row];
  }
  return Math.min(last[b.length]!, most + 1);
}
