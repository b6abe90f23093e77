import { useStore } from 'zustand';
import { mmPerUnit } from '@gull-pane/core/drawing/units';
import type { FigureStyle } from '@gull-pane/core/measure/figures';
import type { DrawingStore } from '../store/drawing-store';
import { usePreferences } from '../store/preferences-store';

/** How figures of a drawing are written now. */
export function useFigureStyle({ drawing }: { readonly drawing: DrawingStore }): FigureStyle {
  const unit = useStore(drawing, (state) => state.drawing.unit);
  const { shownIn, decimals, angles } = usePreferences();
  return { unit, shownIn, decimals, angles };
}

/** The same outside of components. */
export function figureStyleOf(drawing: DrawingStore): FigureStyle {
  const { shownIn, decimals, angles } = usePreferences.getState();
  return { unit: drawing.getState().drawing.unit, shownIn, decimals, angles };
}

/** Drawing units that a CSS px of this screen is wide at 1:1. */
export function useUnitsOfScreenPx({ drawing }: { readonly drawing: DrawingStore }): number {
  const unit = useStore(drawing, (state) => state.drawing.unit);
  return usePreferences((state) => state.mmPerPx) / mmPerUnit(unit);
}

/** Drawing units that a CSS px of this screen is wide at 1:1. */
export const unitsOfScreenPx = (drawing: DrawingStore): number =>
  usePreferences.getState().mmPerPx / mmPerUnit(drawing.getState().drawing.unit);
