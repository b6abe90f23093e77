import { LinearSRGBColorSpace, WebGLRenderer } from 'three';

let shared: WebGLRenderer | null = null;
let borrowers = 0;

/**
 * One renderer for all small pictures that are made in one go and copied from it at once: a browser has only so many.
 * Whoever borrows it sets its size before each picture, and gives it back.
 */
export function borrowSideRenderer(): WebGLRenderer {
  borrowers++;
  if (!shared) {
    shared = new WebGLRenderer({ antialias: false, preserveDrawingBuffer: true });
    shared.outputColorSpace = LinearSRGBColorSpace;
    shared.autoClear = false;
    shared.sortObjects = false;
  }
  return shared;
}

export function returnSideRenderer(): void {
  if (--borrowers > 0) return;
  shared?.dispose();
  shared?.forceContextLoss();
  shared = null;
}
