import { multiply, aboutAxis, identityQuaternion, rotate, type Quaternion } from '../geometry/quaternion.ts';
import { add3, along3, dot3, scale3, sub3, type Vec3 } from '../geometry/vec.ts';

/** So many volumes cut a model at a time at most: each may cost a test at every pixel. */
export const MOST_CLIPS = 4;

/** What cuts a model open: a box that keeps its inside or its outside, or a plane that keeps one side. */
export interface ClipVolume {
  readonly id: number;
  readonly name: string;
  readonly kind: 'box' | 'plane';
  /** The middle of a box, a point of a plane. */
  readonly centre: Vec3;
  /** Turns its own axes into those of the drawing; a plane's normal is its own Z. */
  readonly orientation: Quaternion;
  /** Half its sides; of a box. */
  readonly half: Vec3;
  /** A plane's inside lies behind it. */
  readonly keeps: 'inside' | 'outside';
  readonly isOn: boolean;
}

/** A flat side of a volume. */
export interface ClipFace {
  readonly middle: Vec3;
  /** Away from the volume. */
  readonly normal: Vec3;
  readonly u: Vec3;
  readonly v: Vec3;
  /** Half its sides along u and v; infinite for a plane. */
  readonly halfU: number;
  readonly halfV: number;
}

/** No box is thinner than this, drawing units. */
const THINNEST = 1;

const inverse = ({ x, y, z, w }: Quaternion): Quaternion => ({ x: -x, y: -y, z: -z, w });

/** A point of the world in the axes of a clip volume, from its centre; drawing units. */
export const localOf = ({ centre, orientation }: ClipVolume, point: Vec3): Vec3 =>
  rotate(inverse(orientation), sub3(point, centre));
const worldOf = ({ centre, orientation }: ClipVolume, local: Vec3): Vec3 => add3(centre, rotate(orientation, local));

/** Whether a point of the world lies in a box, or on the side of a plane that its normal points away from; borders count. */
export function isInside(volume: ClipVolume, point: Vec3): boolean {
  const { x, y, z } = localOf(volume, point);
  if (volume.kind === 'plane') return z <= 0;
  const { half } = volume;
  return Math.abs(x) <= half.x && Math.abs(y) <= half.y && Math.abs(z) <= half.z;
}

/** The volumes that cut. */
export const inForce = (volumes: readonly ClipVolume[]): readonly ClipVolume[] => volumes.filter(({ isOn }) => isOn);

/** Whether a point remains when all of the volumes have cut. */
export const isKept = (volumes: readonly ClipVolume[], point: Vec3): boolean =>
  volumes.every((volume) => !volume.isOn || isInside(volume, point) === (volume.keeps === 'inside'));

/** The sides: −X, X, −Y, Y, −Z, Z of a box, or the one of a plane. */
export function facesOf(volume: ClipVolume): ClipFace[] {
  const { centre, orientation, half } = volume;
  const [x, y, z] = [
    { x: 1, y: 0, z: 0 },
    { x: 0, y: 1, z: 0 },
    { x: 0, y: 0, z: 1 },
  ].map((axis) => rotate(orientation, axis)) as [Vec3, Vec3, Vec3];
  if (volume.kind === 'plane') return [{ middle: centre, normal: z, u: x, v: y, halfU: Infinity, halfV: Infinity }];
  return (
    [
      [x, y, z, half.x, half.y, half.z],
      [y, z, x, half.y, half.z, half.x],
      [z, x, y, half.z, half.x, half.y],
    ] as const
  ).flatMap(([normal, u, v, reach, halfU, halfV]) =>
    [-1, 1].map((sign) => ({
      middle: along3(centre, normal, sign * reach),
      normal: scale3(normal, sign),
      u,
      v: scale3(v, sign),
      halfU,
      halfV,
    })),
  );
}

/** The volume with a side drawn outwards; the opposite side of a box stays. @param face as {@link facesOf} counts */
export function drawFace(volume: ClipVolume, face: number, by: number): ClipVolume {
  const { normal } = facesOf(volume)[face]!;
  if (volume.kind === 'plane') return { ...volume, centre: along3(volume.centre, normal, by) };
  const axis = (['x', 'y', 'z'] as const)[Math.floor(face / 2)]!;
  const half = Math.max(volume.half[axis] + by / 2, THINNEST / 2);
  const moved = 2 * (half - volume.half[axis]);
  return {
    ...volume,
    half: { ...volume.half, [axis]: half },
    centre: along3(volume.centre, normal, moved / 2),
  };
}

/** The smallest box of an orientation about points. @param points x, y, z triples @param margin on every side */
export function boxAbout(
  points: ArrayLike<number>,
  orientation: Quaternion,
  margin: number,
): Pick<ClipVolume, 'centre' | 'half' | 'orientation'> {
  const base = { x: points[0] ?? 0, y: points[1] ?? 0, z: points[2] ?? 0 };
  const back = inverse(orientation);
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let i = 0; i + 2 < points.length; i += 3) {
    const { x, y, z } = rotate(back, sub3({ x: points[i]!, y: points[i + 1]!, z: points[i + 2]! }, base));
    [x, y, z].forEach((value, axis) => {
      low[axis] = Math.min(low[axis]!, value);
      high[axis] = Math.max(high[axis]!, value);
    });
  }
  const [x, y, z] = low.map((value, axis) => (value + high[axis]!) / 2) as [number, number, number];
  const half = (axis: number): number => Math.max((high[axis]! - low[axis]!) / 2 + margin, THINNEST / 2);
  return {
    orientation,
    centre: add3(base, rotate(orientation, { x, y, z })),
    half: { x: half(0), y: half(1), z: half(2) },
  };
}

/** An orientation whose Z is a normal and whose X lies level. */
export function facing(normal: Vec3): Quaternion {
  const level = Math.hypot(normal.x, normal.y);
  if (level < 1e-9) return normal.z > 0 ? identityQuaternion : aboutAxis({ x: 1, y: 0, z: 0 }, Math.PI);
  const turn = aboutAxis({ x: 0, y: 0, z: 1 }, Math.atan2(normal.x, -normal.y));
  return multiply(turn, aboutAxis({ x: 1, y: 0, z: 0 }, Math.atan2(level, normal.z)));
}

/** Heights over a face are rounded: by no more than this share of the lengths that they are made of. */
const ROUNDING = 1e-14;

/** By how much a height over a face may be wrong. */
const slackOf = (centre: Vec3, halfSize: Vec3, { middle }: ClipFace): number => {
  const away = sub3(centre, middle);
  const lengths = [away.x, away.y, away.z, halfSize.x, halfSize.y, halfSize.z];
  return ROUNDING * lengths.reduce((sum, length) => sum + Math.abs(length), 0);
};

/** Whether anything of a box may remain. @param centre, halfSize of a box along the drawing's axes */
export function mayRemain(volumes: readonly ClipVolume[], centre: Vec3, halfSize: Vec3): boolean {
  return volumes.every((volume) => {
    if (!volume.isOn) return true;
    const faces = facesOf(volume);
    const reach = (normal: Vec3): number =>
      Math.abs(normal.x) * halfSize.x + Math.abs(normal.y) * halfSize.y + Math.abs(normal.z) * halfSize.z;
    const height = ({ middle, normal }: ClipFace): number => dot3(sub3(centre, middle), normal);
    if (volume.keeps === 'inside')
      return faces.every((face) => height(face) <= reach(face.normal) + slackOf(centre, halfSize, face));
    return faces.some((face) => height(face) + reach(face.normal) > -slackOf(centre, halfSize, face));
  });
}

/** Whether all of a box remains: nothing cuts it. @param centre, halfSize of a box along the drawing's axes */
export const remainsWhole = (volumes: readonly ClipVolume[], centre: Vec3, halfSize: Vec3): boolean =>
  volumes.every((volume) => !volume.isOn || keepsWhole(volume, centre, halfSize));

/**
 * Which volumes take something of a box away.
 * @param centre, halfSize of a box along the drawing's axes
 * @returns bit i for the i-th of {@link inForce}; 0 where the box remains whole
 */
export const cutBy = (volumes: readonly ClipVolume[], centre: Vec3, halfSize: Vec3): number =>
  inForce(volumes).reduce((bits, volume, i) => bits | (keepsWhole(volume, centre, halfSize) ? 0 : 1 << i), 0);

function keepsWhole(volume: ClipVolume, centre: Vec3, halfSize: Vec3): boolean {
  const reach = (normal: Vec3): number =>
    Math.abs(normal.x) * halfSize.x + Math.abs(normal.y) * halfSize.y + Math.abs(normal.z) * halfSize.z;
  const height = ({ middle, normal }: ClipFace): number => dot3(sub3(centre, middle), normal);
  const faces = facesOf(volume);
  if (volume.keeps === 'inside')
    return faces.every((face) => height(face) + reach(face.normal) <= -slackOf(centre, halfSize, face));
  return faces.some((face) => height(face) > reach(face.normal) + slackOf(centre, halfSize, face));
}

/** The nearest point of what a volume keeps, for those that keep their inside: what a fit looks at. */
export function clampInto(volumes: readonly ClipVolume[], point: Vec3): Vec3 {
  let held = point;
  for (const volume of volumes) {
    if (!volume.isOn) continue;
    const local = localOf(volume, held);
    if (volume.kind === 'plane') {
      const isOut = volume.keeps === 'inside' ? local.z > 0 : local.z < 0;
      if (isOut) held = worldOf(volume, { ...local, z: 0 });
    } else if (volume.keeps === 'inside') {
      const clamp = (value: number, most: number): number => Math.min(Math.max(value, -most), most);
      const { half } = volume;
      held = worldOf(volume, { x: clamp(local.x, half.x), y: clamp(local.y, half.y), z: clamp(local.z, half.z) });
    }
  }
  return held;
}
