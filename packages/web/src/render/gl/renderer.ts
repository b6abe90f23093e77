import { ColorManagement, LinearSRGBColorSpace, WebGLRenderer } from 'three';

// A drawing's colours are shown as they are, so nothing is converted.
ColorManagement.enabled = false;

/** @param canvas what is drawn on; a new one off the screen if absent. It keeps its picture until the next is drawn. */
export function makeRenderer(canvas?: HTMLCanvasElement): WebGLRenderer {
  const renderer = new WebGLRenderer({
    ...(canvas && { canvas, powerPreference: 'high-performance' as const }),
    antialias: false,
    preserveDrawingBuffer: true,
  });
  renderer.outputColorSpace = LinearSRGBColorSpace;
  renderer.autoClear = false;
  renderer.sortObjects = false;
  return renderer;
}

/** Gives the renderer's context back: a browser has only so many of them. */
export function dropRenderer(renderer: WebGLRenderer): void {
  renderer.dispose();
  renderer.forceContextLoss();
}

let shared: WebGLRenderer | null = null;
let borrowers = 0;

/**
 * One renderer for all pictures off the screen that are made in one go and copied from it at once. Whoever borrows it
 * sets its size before each picture, and gives it back.
 */
export function borrowRenderer(): WebGLRenderer {
  borrowers++;
  return (shared ??= makeRenderer());
}

export function returnRenderer(): void {
  if (--borrowers > 0 || !shared) return;
  dropRenderer(shared);
  shared = null;
}
