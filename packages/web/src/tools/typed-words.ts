import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { Typed } from '@gull-pane/core/typed/typed-place';
import { exactText } from '../basics/figures';

interface Extents {
  readonly min: { readonly x: number; readonly y: number };
  readonly max: { readonly x: number; readonly y: number };
}

/**
 * What was understood of a place, a way, a length or an angle that was typed, before it holds.
 * @param extents of the drawing: a place outside them says so
 */
export function typedInWords(typed: Typed, unit: DrawingUnit, extents: Extents | null): string {
  const told = unit === 'none' ? '' : ` ${unit}`;
  const signed = (value: number): string => `${value < 0 ? '' : '+'}${exactText(value)}`;
  switch (typed.kind) {
    case 'unclear':
      return typed.trouble;
    case 'place': {
      const { x, y, z } = typed;
      const isOutside =
        extents !== null && (x < extents.min.x || x > extents.max.x || y < extents.min.y || y > extents.max.y);
      const height = z === null ? '' : `, Z ${exactText(z)}`;
      return `E ${exactText(x)}, N ${exactText(y)}${height}${told}${isOutside ? ', outside the drawing' : ''}`;
    }
    case 'by': {
      const up = typed.z === 0 ? '' : `, ${signed(typed.z)}${told} up`;
      return `${signed(typed.x)}${told} east, ${signed(typed.y)}${told} north${up}`;
    }
    case 'length':
      return `${exactText(typed.length)}${told}`;
    case 'angle':
      return `${exactText((typed.angleRad * 180) / Math.PI)}° from east`;
  }
}
