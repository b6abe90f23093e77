import { facesOf, facing, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { quaternionOfAxes } from '@gull-pane/core/geometry/quaternion';
import { along3, dot3, scale3, sub3, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { CardClipDto } from '@gull-pane/protocol/cards';

/** A plane that cuts: what its normal points to goes. */
export interface ClipPlane {
  readonly at: Vec3;
  readonly normal: Vec3;
}

const volumeOf = ({ qx, qy, qz, qw, ...clip }: CardClipDto): ClipVolume => ({
  ...clip,
  id: 0,
  orientation: { x: qx, y: qy, z: qz, w: qw },
});

/** What cuts, as planes. @returns planes, and whether a box that keeps its outside had to be left out */
export function planesOf(clips: readonly CardClipDto[]): {
  readonly planes: readonly ClipPlane[];
  readonly isPart: boolean;
} {
  const planes: ClipPlane[] = [];
  let isPart = false;
  for (const clip of clips) {
    if (!clip.isOn) continue;
    const isInside = clip.keeps === 'inside';
    if (clip.kind === 'box' && !isInside) isPart = true;
    else
      for (const { middle, normal } of facesOf(volumeOf(clip)))
        planes.push({ at: middle, normal: isInside ? normal : scale3(normal, -1) });
  }
  return { planes, isPart };
}

/** Sides are at right angles if the cosine is below this. */
const RIGHT = 1e-6;
const NO_HALF = { x: 0, y: 0, z: 0 } as const;

/**
 * Planes as what cuts a pane: six that make a box become one.
 * @param most so many may cut
 * @returns clips, and how many planes were too many
 */
export function clipsOfPlanes(
  planes: readonly ClipPlane[],
  most: number,
): { readonly clips: CardClipDto[]; readonly left: number } {
  const box = planes.length === 6 ? boxOf(planes) : null;
  if (box) return { clips: [box], left: 0 };
  const clips = planes.slice(0, most).map(({ at, normal }, k): CardClipDto => {
    const { x, y, z, w } = facing(normal);
    return {
      name: `Section ${k + 1}`,
      kind: 'plane',
      keeps: 'inside',
      isOn: true,
      centre: at,
      half: NO_HALF,
      qx: x,
      qy: y,
      qz: z,
      qw: w,
    };
  });
  return { clips, left: planes.length - clips.length };
}

/** The box between three pairs of opposite planes at right angles; null if they are none. */
function boxOf(planes: readonly ClipPlane[]): CardClipDto | null {
  const pairs: { readonly normal: Vec3; readonly low: Vec3; readonly high: Vec3 }[] = [];
  const rest = [...planes];
  while (rest.length > 0) {
    const one = rest.shift()!;
    const found = rest.findIndex(({ normal }) => dot3(normal, one.normal) < -1 + RIGHT);
    if (found < 0) return null;
    const [other] = rest.splice(found, 1) as [ClipPlane];
    // the later one of our own boxes points along the axis
    pairs.push({ normal: other.normal, low: one.at, high: other.at });
  }
  const [a, b, c] = pairs as [(typeof pairs)[0], (typeof pairs)[0], (typeof pairs)[0]];
  if (
    [dot3(a.normal, b.normal), dot3(b.normal, c.normal), dot3(c.normal, a.normal)].some(
      (cosine) => Math.abs(cosine) > RIGHT,
    )
  )
    return null;
  const halves = pairs.map(({ normal, low, high }) => dot3(sub3(high, low), normal) / 2);
  if (halves.some((half) => half <= 0)) return null;
  const centre = pairs.reduce((at, { normal, low, high }) => {
    const middle = dot3(sub3(low, at), normal) / 2 + dot3(sub3(high, at), normal) / 2;
    return along3(at, normal, middle);
  }, a.low);
  const isLeft = dot3(crossOf(a.normal, b.normal), c.normal) < 0;
  const { x, y, z, w } = quaternionOfAxes(a.normal, b.normal, isLeft ? scale3(c.normal, -1) : c.normal);
  return {
    name: 'Box',
    kind: 'box',
    keeps: 'inside',
    isOn: true,
    centre,
    half: { x: halves[0]!, y: halves[1]!, z: halves[2]! },
    qx: x,
    qy: y,
    qz: z,
    qw: w,
  };
}

const crossOf = (a: Vec3, b: Vec3): Vec3 => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
