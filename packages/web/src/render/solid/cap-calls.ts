import type { ClipFace } from '@gull-pane/core/clip/clip-volume';
import type { CutSurface, ObjectCut } from '@gull-pane/core/clip/cut-surface';

/** A side of a volume, and where it meets objects. */
export interface CutFace {
  readonly face: ClipFace;
  readonly cuts: readonly ObjectCut[];
}

/** What the worker that closes cuts is asked. */
export interface CapCalls {
  readonly close: { readonly ask: readonly CutFace[]; readonly answer: readonly CutSurface[] };
}
