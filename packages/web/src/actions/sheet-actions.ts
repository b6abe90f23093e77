import { ChevronLeft, ChevronRight, FileText } from 'lucide-react';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import { viewBox } from '@gull-pane/core/camera/view-box';
import { cornersOfSheet, sheetInView, sheetOf } from '@gull-pane/core/spatial/sheet';
import type { Action, ActionTarget, Parts } from './action';

/** The sheet of the set that the pane shows; −1 where it shows several or none. */
export function shownSheet({ drawing, pane }: Pick<ActionTarget, 'drawing' | 'pane'>): number {
  const { camera, viewport } = pane.getState();
  return sheetInView(drawing.getState().drawing.sheets, viewBox(camera, viewport));
}

/** Makes a sheet fill the pane. */
export function goToSheet({ drawing, pane }: Pick<ActionTarget, 'drawing' | 'pane'>, index: number): void {
  const sheet = drawing.getState().drawing.sheets[index];
  if (!sheet) return;
  pane.getState().travel((from, viewport, limits) => fitSupport(from, viewport, cornersOfSheet(sheet), limits));
}

function cornersToFit(target: Parts<'pane' | 'drawing'>): readonly number[] | null {
  const { drawing, layers } = target.drawing.getState();
  const { sheets } = drawing;
  if (sheets.length === 0) return sheetOf(layers);
  return cornersOfSheet(sheets[Math.max(shownSheet(target), 0)]!);
}

export const fitSheetAction: Action<'pane' | 'drawing'> = {
  for: 'flat',
  id: 'fit-sheet',
  name: 'Fit sheet',
  sentence: 'Zooms so that the sheet fills the pane.',
  keys: ['s'],
  icon: FileText,
  run(target) {
    const corners = cornersToFit(target);
    if (corners) target.pane.getState().travel((from, viewport, limits) => fitSupport(from, viewport, corners, limits));
  },
  isEnabled: (target) => cornersToFit(target) !== null,
};

export const nextSheetAction: Action<'pane' | 'drawing'> = {
  for: 'flat',
  id: 'next-sheet',
  name: 'Next sheet',
  sentence: 'Fits the next sheet of the set; from a view of several, the first.',
  keys: ['PageDown'],
  icon: ChevronRight,
  run: (target) => goToSheet(target, shownSheet(target) + 1),
  isEnabled: (target) => shownSheet(target) + 1 < target.drawing.getState().drawing.sheets.length,
};

export const previousSheetAction: Action<'pane' | 'drawing'> = {
  for: 'flat',
  id: 'previous-sheet',
  name: 'Previous sheet',
  sentence: 'Fits the previous sheet of the set; from a view of several, the last.',
  keys: ['PageUp'],
  icon: ChevronLeft,
  run(target) {
    const shown = shownSheet(target);
    goToSheet(target, shown < 0 ? target.drawing.getState().drawing.sheets.length - 1 : shown - 1);
  },
  isEnabled: (target) => shownSheet(target) !== 0 && target.drawing.getState().drawing.sheets.length > 0,
};
