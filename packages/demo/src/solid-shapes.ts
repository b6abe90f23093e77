/** Shapes that models of the works are put together from. Metres, Z up, about their own origin. */

/** Triangles anticlockwise seen from outside. */
export interface Shape {
  /** x, y, z triples. */
  readonly positions: readonly number[];
  readonly triangles: readonly number[];
}

type Place = readonly [x: number, y: number, z: number];

export function merge(...shapes: readonly Shape[]): Shape {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (const shape of shapes) {
    const base = positions.length / 3;
    for (const value of shape.positions) positions.push(value);
    for (const vertex of shape.triangles) triangles.push(base + vertex);
  }
  return { positions, triangles };
}

function mapped({ positions, triangles }: Shape, to: (x: number, y: number, z: number) => Place): Shape {
  const moved: number[] = [];
  for (let i = 0; i < positions.length; i += 3) moved.push(...to(positions[i]!, positions[i + 1]!, positions[i + 2]!));
  return { positions: moved, triangles };
}

export const moved = (shape: Shape, [dx, dy, dz]: Place): Shape => mapped(shape, (x, y, z) => [x + dx, y + dy, z + dz]);

/** Turned about Z, anticlockwise seen from above. */
export function turned(shape: Shape, angleRad: number): Shape {
  const [c, s] = [Math.cos(angleRad), Math.sin(angleRad)];
  return mapped(shape, (x, y, z) => [c * x - s * y, s * x + c * y, z]);
}

/** What stood along Z lies along X. */
export const laidAlongX = (shape: Shape): Shape => mapped(shape, (x, y, z) => [z, y, -x]);
/** What stood along Z lies along Y. */
export const laidAlongY = (shape: Shape): Shape => mapped(shape, (x, y, z) => [x, z, -y]);

/** A box standing on its origin's plane, its base centred. */
export function box(width: number, depth: number, height: number): Shape {
  const [x, y] = [width / 2, depth / 2];
  const positions: number[] = [];
  for (const z of [0, height]) positions.push(-x, -y, z, x, -y, z, x, y, z, -x, y, z);
  const side = (a: number, b: number): number[] => [a, b, b + 4, a, b + 4, a + 4];
  return {
    positions,
    triangles: [0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, ...side(0, 1), ...side(1, 2), ...side(2, 3), ...side(3, 0)],
  };
}

/**
 * A body of revolution about Z.
 * @param profile radius and height of its points, upwards outside; where the radius is 0 it is closed
 */
export function revolve(profile: readonly (readonly [radius: number, z: number])[], sides: number): Shape {
  const positions: number[] = [];
  const rings = profile.map(([radius, z]) => {
    const first = positions.length / 3;
    const count = radius === 0 ? 1 : sides;
    for (let k = 0; k < count; k++) {
      const angle = (2 * Math.PI * k) / sides;
      positions.push(radius * Math.cos(angle), radius * Math.sin(angle), z);
    }
    return { first, count };
  });
  const triangles: number[] = [];
  for (let i = 0; i + 1 < rings.length; i++) {
    const [low, high] = [rings[i]!, rings[i + 1]!];
    for (let k = 0; k < sides; k++) {
      const at = (ring: typeof low, step: number): number => ring.first + (ring.count === 1 ? 0 : step % sides);
      const [a, b, c, d] = [at(low, k), at(low, k + 1), at(high, k + 1), at(high, k)];
      if (low.count > 1) triangles.push(a, b, c);
      if (high.count > 1) triangles.push(a, c, d);
    }
  }
  return { positions, triangles };
}

/** A closed cylinder standing on its origin. */
export const cylinder = (radius: number, height: number, sides: number): Shape =>
  revolve(
    [
      [0, 0],
      [radius, 0],
      [radius, height],
      [0, height],
    ],
    sides,
  );

/**
 * A tube along a part of a circle in the plane of X and Z that begins at the origin along X and bends upwards.
 * @param bendRad how far it goes round
 */
export function bend(tube: number, radius: number, bendRad: number, sides: number, steps: number): Shape {
  const positions: number[] = [];
  for (let i = 0; i <= steps; i++) {
    const along = (bendRad * i) / steps;
    for (let k = 0; k < sides; k++) {
      const round = (2 * Math.PI * k) / sides;
      const reach = radius - tube * Math.cos(round);
      positions.push(reach * Math.sin(along), tube * Math.sin(round), radius - reach * Math.cos(along));
    }
  }
  const triangles: number[] = [];
  for (let i = 0; i < steps; i++)
    for (let k = 0; k < sides; k++) {
      const [a, b] = [i * sides + k, i * sides + ((k + 1) % sides)];
      triangles.push(a, a + sides, b + sides, a, b + sides, b);
    }
  return { positions, triangles };
}

/** A ring about Z. */
export function ring(radius: number, tube: number, sides: number, steps: number): Shape {
  const whole = bend(tube, radius, 2 * Math.PI, sides, steps);
  return mapped(whole, (x, y, z) => [x, radius - z, y]);
}

/** A disc with bolts through it, standing on its origin: one half of a flanged joint is its mirror. */
export function flange(bore: number, bolts: number): Shape {
  const outer = bore * 1.35 + 0.05;
  const thick = 0.03 + bore * 0.06;
  const disc = revolve(
    [
      [bore, 0],
      [outer, 0],
      [outer, thick],
      [bore * 1.12, thick],
      [bore * 1.02, thick * 2],
      [bore, thick * 2],
    ],
    32,
  );
  const size = 0.012 + bore * 0.03;
  const bolt = moved(cylinder(size, size * 1.2, 6), [0, 0, thick]);
  const reach = (bore * 1.08 + outer) / 2;
  const round = Array.from({ length: bolts }, (_, k) => turned(moved(bolt, [reach, 0, 0]), (2 * Math.PI * k) / bolts));
  return merge(disc, ...round);
}
