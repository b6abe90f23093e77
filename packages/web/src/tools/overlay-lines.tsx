import type { ReactElement } from 'react';
import type { Vec2 } from '@gull-pane/core/geometry/vec';

/** Far outside the pane a browser's lines lose their way: ends are kept within so many px. */
const FARTHEST_PX = 1e5;
const kept = (value: number): number => Math.min(Math.max(value, -FARTHEST_PX), FARTHEST_PX);

export const centre = ({ x, y }: Vec2): { cx: number; cy: number } => ({ cx: kept(x), cy: kept(y) });

/** A point of a tool. @param at CSS px of the pane */
export const Dot = ({ at }: { readonly at: Vec2 }): ReactElement | null =>
  Number.isFinite(at.x) ? <circle {...centre(at)} r={3.5} /> : null;

interface LineProps {
  /** CSS px of the pane. */
  readonly points: readonly Vec2[];
  readonly isClosed?: boolean;
}

export function Line({ points, isClosed = false }: LineProps): ReactElement | null {
  // what lies behind the eye has no place on the screen
  if (points.some(({ x }) => Number.isNaN(x))) return null;
  const told = points.map(({ x, y }) => `${kept(x)},${kept(y)}`).join(' ');
  return isClosed ? <polygon className="tool-area" points={told} /> : <polyline points={told} />;
}
