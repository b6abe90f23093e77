/**
 * Sums and products of doubles with twice their digits, as unevaluated pairs high + low.
 * Sources: T. J. Dekker, "A floating-point technique for extending the available precision", Numerische Mathematik 18
 * (1971); D. E. Knuth, "The Art of Computer Programming" 2, 4.2.2.
 */
export interface DoubleDouble {
  readonly hi: number;
  readonly lo: number;
}

/** 2²⁷ + 1: parts a double in halves of 26 bits. */
const SPLITTER = 134217729;

/** a + b, exactly. */
export function twoSum(a: number, b: number): DoubleDouble {
  const hi = a + b;
  const part = hi - a;
  return { hi, lo: a - (hi - part) + (b - part) };
}

/** a · b, exactly while nothing under- or overflows. */
export function twoProduct(a: number, b: number): DoubleDouble {
  const hi = a * b;
  const [ta, tb] = [SPLITTER * a, SPLITTER * b];
  const [ah, bh] = [ta - (ta - a), tb - (tb - b)];
  const [al, bl] = [a - ah, b - bh];
  return { hi, lo: al * bl - (hi - ah * bh - al * bh - ah * bl) };
}

/** Sum of two numbers, to about 31 digits. */
export function addDd(a: DoubleDouble, b: DoubleDouble): DoubleDouble {
  const sum = twoSum(a.hi, b.hi);
  const low = twoSum(a.lo, b.lo);
  const first = twoSum(sum.hi, sum.lo + low.hi);
  return twoSum(first.hi, first.lo + low.lo);
}

/** The number with the other sign; exact. */
export const negateDd = ({ hi, lo }: DoubleDouble): DoubleDouble => ({ hi: -hi, lo: -lo });

/** Product of two numbers, to about 31 digits. */
export function multiplyDd(a: DoubleDouble, b: DoubleDouble): DoubleDouble {
  const product = twoProduct(a.hi, b.hi);
  return twoSum(product.hi, product.lo + (a.hi * b.lo + a.lo * b.hi));
}

/** By long division in two steps. */
export function divideDd(a: DoubleDouble, b: DoubleDouble): DoubleDouble {
  const first = a.hi / b.hi;
  const rest = addDd(a, negateDd(multiplyDd(b, { hi: first, lo: 0 })));
  const second = rest.hi / b.hi;
  const last = addDd(rest, negateDd(multiplyDd(b, { hi: second, lo: 0 }))).hi / b.hi;
  return addDd(twoSum(first, second), { hi: last, lo: 0 });
}

/** a·d − b·c of pairs: the turn from one vector to another. */
export const crossDd = (ax: DoubleDouble, ay: DoubleDouble, bx: DoubleDouble, by: DoubleDouble): DoubleDouble =>
  addDd(multiplyDd(ax, by), negateDd(multiplyDd(ay, bx)));

/** ax·bx + ay·by, each step to about 31 digits. */
export const dotDd = (ax: DoubleDouble, ay: DoubleDouble, bx: DoubleDouble, by: DoubleDouble): DoubleDouble =>
  addDd(multiplyDd(ax, bx), multiplyDd(ay, by));
