/**
 * Carries a person's coverage over from an earlier revision to a later one.
 * @param bits of the earlier revision: a bit an object, by its number, in base64 (RFC 4648)
 * @param same of each object of the later revision the one of the earlier that it is unchanged; −1 for all others
 * @returns the same for the later revision
 */
export function carriedBits(bits: string, same: Int32Array): string {
  const before = Buffer.from(bits, 'base64');
  const after = Buffer.alloc((same.length + 7) >> 3);
  same.forEach((former, object) => {
    if (former >= 0 && ((before[former >> 3] ?? 0) >> (former & 7)) & 1) after[object >> 3]! |= 1 << (object & 7);
  });
  return after.toString('base64');
}
