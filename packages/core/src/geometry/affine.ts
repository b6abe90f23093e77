/**
 * A plane affine map as SVG writes it: x' = a·x + c·y + e, y' = b·x + d·y + f.
 * Source: SVG 2, 8.5 "The transform property".
 */
export interface Affine {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export const identityAffine: Affine = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/** `outer` after `inner`: the map of a child inside its parent. */
export function compose(outer: Affine, inner: Affine): Affine {
  if (outer === identityAffine) return inner;
  if (inner === identityAffine) return outer;
  return {
    a: outer.a * inner.a + outer.c * inner.b,
    b: outer.b * inner.a + outer.d * inner.b,
    c: outer.a * inner.c + outer.c * inner.d,
    d: outer.b * inner.c + outer.d * inner.d,
    e: outer.a * inner.e + outer.c * inner.f + outer.e,
    f: outer.b * inner.e + outer.d * inner.f + outer.f,
  };
}

/** x of a point after the transform. */
export const applyX = (m: Affine, x: number, y: number): number => m.a * x + m.c * y + m.e;
/** y of a point after the transform. */
export const applyY = (m: Affine, x: number, y: number): number => m.b * x + m.d * y + m.f;

/** The mean enlargement of lengths: the square root of the change of area. */
export const meanScale = (m: Affine): number => Math.sqrt(Math.abs(m.a * m.d - m.b * m.c));
