import type { InspectedPane, InspectedDrawing, Inspection } from '@gull-pane/protocol/inspect';

declare global {
  interface Window {
    readonly gullPane: { readonly inspect: () => Inspection };
  }
}

type DrawingReport = () => InspectedDrawing;
type PaneReport = () => InspectedPane;

let drawing: DrawingReport | null = null;
const panes = new Map<string, PaneReport>();

/** Registers a pane with `window.gullPane.inspect()`. @returns what removes it */
export function reportDrawing(report: DrawingReport): () => void {
  drawing = report;
  return () => {
    if (drawing === report) drawing = null;
  };
}

export function reportPane(id: string, report: PaneReport): () => void {
  panes.set(id, report);
  return () => {
    if (panes.get(id) === report) panes.delete(id);
  };
}

/** Makes `window.gullPane.inspect()`, a plain read-only picture of what is shown, for tests and support. */
export function installInspection(): void {
  const inspect = (): Inspection => ({
    drawing: drawing?.() ?? null,
    panes: [...panes.values()].map((report) => report()),
  });
  Object.defineProperty(window, 'gullPane', { value: Object.freeze({ inspect }) });
}
