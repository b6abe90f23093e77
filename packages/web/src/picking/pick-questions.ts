import type { Hit } from '@gull-pane/core/pick/picker';
import type { ObjectKind } from '@gull-pane/core/pick/object-index';
import type { Region } from '@gull-pane/core/pick/region';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Covered, CoverageGrid, Readable } from '@gull-pane/core/seen/coverage';
import type { StrayReport } from '@gull-pane/core/spatial/strays';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import type { Path } from '@gull-pane/core/drawing/path';
import type { Flooded } from '@gull-pane/core/planar/flood';
import type { SnapKind, SnapOffer } from '@gull-pane/core/snap/snap';

/** What can be asked of the picking worker, with its answer. Objects are named by their place in the index. */
export interface PickQuestions {
  /** What lies at a place, the likeliest first, with what is told of the first. */
  at: { ask: { readonly place: Vec2; readonly radius: number }; answer: readonly Hit[] };
  within: {
    /** @param corners the same as a box of the pane, CSS px */
    ask: { readonly region: Region; readonly corners: readonly [Vec2, Vec2] };
    answer: { readonly inside: Uint32Array; readonly touching: Uint32Array };
  };
  /** Whether anything is in sight, and if not, what is nearest to the middle. */
  sight: {
    ask: { readonly region: Region };
    answer: {
      readonly isAnything: boolean;
      /** In solids with its height. */
      readonly nearest: { readonly point: Vec2 & { readonly z?: number }; readonly distance: number } | null;
    };
  };
  support: { ask: { readonly entries: Uint32Array }; answer: readonly number[] };
  facts: { ask: { readonly entries: Uint32Array; readonly withLength: boolean }; answer: readonly ObjectFacts[] };
  /** Shown objects of the same kinds, the same layers, or all that aren't among those given. */
  like: { ask: { readonly entries: Uint32Array; readonly by: 'kind' | 'layer' | 'others' }; answer: Uint32Array };
  /** How objects are to be drawn over the picture, in a region. */
  outlines: {
    ask: { readonly entries: Uint32Array; readonly region: Region; readonly unitsPerPx: number };
    answer: Outlines;
  };
  /** Objects by their ids: of texts that were found, of sets that were kept. */
  entriesOf: { ask: { readonly objects: readonly number[] }; answer: Uint32Array };
  /** What lies in a region, as one number; all of it, whether it is shown or not. */
  print: { ask: { readonly region: Region; readonly layers: readonly string[] }; answer: string };
  /** What a point near a place may be drawn to. Of flat drawings. */
  snap: {
    ask: {
      readonly at: Vec2;
      readonly radius: number;
      readonly from: Vec2 | null;
      readonly kinds: readonly SnapKind[];
    };
    answer: readonly SnapOffer[];
  };
  /** The closed area around a place, of the lines that are shown and of others. Of flat drawings. */
  flood: {
    ask: {
      readonly at: Vec2;
      /** What is in sight. */
      readonly region: Region;
      readonly unitsPerPx: number;
      readonly tolerance: number;
      readonly others: readonly Path[];
      /** Time for it, ms. */
      readonly withinMs: number;
      /** Whether what lies beyond the region is looked at, too. */
      readonly isBeyond: boolean;
    };
    /** Coordinates about the place. */
    answer: Flooded;
  };
  strays: { ask: null; answer: StrayReport };
  /** What a view shows long enough has been seen. */
  look: {
    ask: { readonly region: Region; readonly unitsPerPx: number; readonly readable: Readable };
    answer: Covered & { readonly news: number };
  };
  /** The unseen object that is nearest to a place, and how far one may be from it to read it. */
  unseen: {
    ask: { readonly at: Vec3; readonly readable: Readable };
    /** Its corners, x, y, z triples, and the drawing units per CSS px at which it can just be read. */
    answer: { readonly corners: readonly number[]; readonly readableAt: number } | null;
  };
  /** How much has been seen, by layer and by sheet of a set. */
  covered: {
    ask: { readonly sheets: readonly Box2[] };
    answer: Covered & {
      readonly layers: readonly (Covered & { readonly layer: number })[];
      /** In the order of the sheets. */
      readonly sheets: readonly Covered[];
    };
  };
  /** @see CoverageGrid */
  unseenGrid: { ask: { readonly most: number }; answer: CoverageGrid };
  /** What has been seen, a bit an object; put in its place if given. */
  seenBits: { ask: { readonly bits: Uint8Array<ArrayBuffer> | null }; answer: Uint8Array<ArrayBuffer> };
  /** The corners of the hull of all that is shown, x, y, z triples. */
  shown: { ask: null; answer: readonly number[] };
}
export type PickQuestion = keyof PickQuestions;

/** Answers questions about the objects of a drawing. */
export interface Answers {
  /**
   * What takes part in nothing.
   * @param objects a byte an object, 0 if it is shown; null if all are
   */
  hide(layers: readonly number[], objects: Uint8Array | null): void;
  ask<About extends PickQuestion>(
    about: About,
    question: PickQuestions[About]['ask'],
  ): Promise<PickQuestions[About]['answer']>;
  /**
   * Asks what changes while a hand moves: while one answer is awaited, only the newest question waits for its turn.
   * @param take called with the answer; not at all for questions that were overtaken or failed
   */
  askLatest<About extends PickQuestion>(
    about: About,
    question: PickQuestions[About]['ask'],
    take: (answer: PickQuestions[About]['answer']) => void,
    purpose?: string,
  ): void;
}

/** What is told of an object. */
export interface ObjectFacts {
  readonly entry: number;
  readonly object: number;
  readonly kind: ObjectKind | 'solid';
  /** Of an object of a model. */
  readonly name?: string;
  readonly layer: number;
  /** Of its lines, drawing units; null if not asked for. */
  readonly length: number | null;
}

export interface Outlines {
  /** What the numbers are relative to, drawing units. */
  readonly anchor: Vec2;
  /** x0, y0, x1, y1 of each chord. */
  readonly chords: Float32Array;
  /** minX, minY, maxX, maxY of what would be too much to draw. */
  readonly boxes: Float32Array;
}

/** What takes part in nothing. */
export interface Hiding {
  readonly layers: readonly number[];
  /** A byte an object, 0 if it is shown; null if all are. */
  readonly objects: Uint8Array | null;
}

/** What the picking worker can be called for: the questions, and what it has to know for them. */
export interface PickCalls extends PickQuestions {
  /** Where the drawing's files are, with a slash at its end. */
  open: { ask: string; answer: undefined };
  hide: { ask: Hiding; answer: undefined };
}
