import type { ReactElement } from 'react';
import type { Viewport } from '@gull-pane/core/camera/camera';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import { figureText, type FigureStyle } from '@gull-pane/core/measure/figures';
import type { MeasureKind } from '@gull-pane/core/measure/measure-kinds';
import type { Placed } from '@gull-pane/core/measure/placed';
import type { ActionTarget } from '../actions/action';
import { useFigureStyle } from '../words/figure-style';
import { tagPlace } from './overlay-lines';

interface FiguresTagProps {
  readonly target: ActionTarget;
  readonly kind: MeasureKind;
  readonly points: readonly Placed[];
  readonly seen: (point: Vec3) => Vec2;
  readonly viewport: Viewport;
}

/** What is measured, beside the last point: the first figure large, the others below. */
export function FiguresTag({ target, kind, points, seen, viewport }: FiguresTagProps): ReactElement | null {
  const style: FigureStyle = useFigureStyle(target);
  const figures = kind.figures(points);
  const at = seen(points.at(-1)!);
  if (!figures || Number.isNaN(at.x)) return null;
  const [first, ...rest] = figures;
  return (
    <div className="tool-tag figures" role="status" aria-label={kind.name} style={tagPlace(at, viewport, 18)}>
      <strong>{figureText(first!, style)}</strong>
      {inRows(rest).map((row, index) => (
        <span key={index}>{row.map((figure) => `${figure.name} ${figureText(figure, style)}`).join(' · ')}</span>
      ))}
    </div>
  );
}

/** Short names stand together in a row. */
function inRows<T extends { readonly name: string }>(figures: readonly T[]): T[][] {
  const rows: T[][] = [];
  for (const figure of figures) {
    const last = rows.at(-1);
    const isShort = (one: T): boolean => one.name.length <= 7;
    if (last && last.length < 4 && isShort(figure) && last.every(isShort)) last.push(figure);
    else rows.push([figure]);
  }
  return rows;
}
