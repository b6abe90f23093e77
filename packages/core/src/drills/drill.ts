import type { Camera, Viewport } from '../camera/camera.ts';
import { worldToScreen } from '../camera/camera.ts';
import type { Box3 } from '../geometry/box.ts';
import type { Vec3 } from '../geometry/vec.ts';

/** What a drill is about: the drawing as it lies, and chance. Drawing units. */
export interface DrillScene {
  readonly extents: Box3;
  /** Everything, fitted. */
  readonly whole: Camera;
  readonly viewport: Viewport;
  /** Numbers from 0 to below 1, others each time. */
  readonly random: () => number;
  /** A text of the drawing with its place, if it has any. */
  readonly tag: { readonly text: string; readonly at: Vec3 } | null;
  /** Corners of a long line in the drawing; null if it has none. */
  readonly line: readonly Vec3[] | null;
}

/** What the hands have made of it. */
export interface DrillState {
  readonly camera: Camera;
  readonly viewport: Viewport;
  /** The N of 1:N. */
  readonly scaleDenominator: number;
  /** How many panes lie side by side, and whether two of them show the same place at the same scale. */
  readonly panes: number;
  readonly areTwoAlike: boolean;
  /** What the tool in hand has been shown so far. */
  readonly points: readonly Vec3[];
}

/** A drill that is on: where it begins, and how its end is known. It looks at the view, never at what was pressed. */
export interface BegunDrill {
  readonly goal: string;
  readonly camera: Camera;
  /** What is marked in the drawing: the corners of it, in order of going there. */
  readonly marked: readonly Box3[];
  /** They have numbers, and all of them stay until the end. */
  readonly areAllMarked?: boolean;
  /** A line of the drawing that is marked, too. */
  readonly way?: readonly Vec3[];
  /** @param reached how many of the marked have been reached so far @returns how many now; all of them ends the drill */
  readonly reached: (state: DrillState, reached: number) => number;
  /** How many have to be reached. */
  readonly steps: number;
}

/** An exercise of a few seconds for the hands. */
export interface Drill {
  readonly id: string;
  readonly name: string;
  readonly kind: 'flat' | 'solid' | 'any';
  /** The fewest acts that it can be done with. */
  readonly fewest: number;
  /** The quicker way, told afterwards. */
  readonly tip: string;
  /** @returns null where the drawing has nothing for it */
  readonly begin: (scene: DrillScene) => BegunDrill | null;
}

/** A drill of one step. */
export const oneStep = (
  goal: string,
  camera: Camera,
  isReached: (state: DrillState) => boolean,
  marked: readonly Box3[] = [],
): BegunDrill => ({ goal, camera, marked, steps: 1, reached: (state) => (isReached(state) ? 1 : 0) });

/** A level square about a point. */
export function squareAt({ x, y, z }: Vec3, side: number): Box3 {
  const half = side / 2;
  return { min: { x: x - half, y: y - half, z }, max: { x: x + half, y: y + half, z } };
}

/** A box somewhere in the drawing. @param share of the drawing's longer side */
export function placeIn({ extents: { min, max }, random }: DrillScene, share: number): Box3 {
  const half = (share * Math.max(max.x - min.x, max.y - min.y)) / 2;
  const within = (low: number, high: number): number => {
    const [from, to] = [low + half, Math.max(high - half, low + half)];
    return from + random() * (to - from);
  };
  return squareAt({ x: within(min.x, max.x), y: within(min.y, max.y), z: (min.z + max.z) / 2 }, 2 * half);
}

/** A hand that frames just a mark cuts this much of it off, CSS px. */
const EDGE_PX = 8;

/** Whether a box lies wholly in the pane and fills a good part of it: a third of its width or height. */
export function isFramed({ min, max }: Box3, { camera, viewport }: Pick<DrillState, 'camera' | 'viewport'>): boolean {
  const corners = [min.x, max.x].flatMap((x) => [min.y, max.y].map((y) => ({ x, y, z: (min.z + max.z) / 2 })));
  const seen = corners.map((corner) => worldToScreen(camera, viewport, corner));
  const [xs, ys] = [seen.map(({ x }) => x), seen.map(({ y }) => y)];
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const { widthPx, heightPx } = viewport;
  const isInside = left >= -EDGE_PX && top >= -EDGE_PX && right <= widthPx + EDGE_PX && bottom <= heightPx + EDGE_PX;
  return isInside && Math.max((right - left) / widthPx, (bottom - top) / heightPx) >= 1 / 3;
}
