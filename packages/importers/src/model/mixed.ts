/** A number that stands for a list of 32-bit numbers (G. Fowler, L. C. Noll, K.-P. Vo, FNV-1a, by words). */
export function mixed(list: Iterable<number>): number {
  let mix = 0x811c9dc5;
  for (const value of list) mix = Math.imul(mix ^ value, 0x01000193);
  return mix >>> 0;
}
