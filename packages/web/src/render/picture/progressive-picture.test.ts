import type { WebGLRenderer } from 'three';
import { beforeEach, describe, expect, it } from 'vitest';
import { planCamera } from '@gull-pane/core/camera/camera';
import { allKinds } from '@gull-pane/core/view/shown';
import { WEIGHT_MOVING } from '../budgets';
import type { Batch, PanePainter, Share } from './painter';
import type { PaneView } from './pane-view';
import { ProgressivePicture } from './progressive-picture';

const start: PaneView = {
  camera: planCamera({ x: 0, y: 0, z: 0 }, 1),
  viewport: { widthPx: 400, heightPx: 300 },
  look: 'lines',
  kinds: allKinds,
  hiddenLayers: new Set<number>(),
  clips: [],
  smoothEdges: true,
  sheet: null,
};
const at = (unitsPerPx: number): PaneView => ({ ...start, camera: { ...start.camera, unitsPerPx } });

/** A renderer that draws nothing, and is busy only when a test says so. */
interface FakeRenderer {
  readonly renderer: WebGLRenderer;
  /** How often the canvas was cleared, and how often a picture from elsewhere was put there. */
  readonly clearedCanvas: () => number;
  readonly presented: () => number;
  isBusy: boolean;
}

function makeRenderer(): FakeRenderer {
  let [target, cleared, presented]: [unknown, number, number] = [null, 0, 0];
  const gl = {
    TIMEOUT_EXPIRED: 1,
    fenceSync: () => ({}),
    flush: () => undefined,
    clientWaitSync: () => (fake.isBusy ? 1 : 0),
    deleteSync: () => undefined,
  };
  const renderer = {
    getPixelRatio: () => 1,
    setRenderTarget: (to: unknown) => (target = to),
    setClearColor: () => undefined,
    clear: () => {
      if (target === null) cleared++;
    },
    render: () => {
      if (target === null) presented++;
    },
    getContext: () => gl,
  };
  const fake = {
    renderer: renderer as unknown as WebGLRenderer,
    clearedCanvas: () => cleared,
    presented: () => presented,
    isBusy: false,
  };
  return fake;
}

/** A painter of three tiles, of which the test says which are there. */
class FakePainter implements PanePainter {
  readonly pending = 0;
  readonly ground = { r: 255, g: 255, b: 255, a: 255 };
  readonly weightPerSegment = 1;
  readonly mayShift = false;
  replaces = false;
  readonly texts = 0;
  there = new Set([0, 1, 2]);
  hidden = 0;
  roundsOfAPass = 1;
  tileWeight = 10;
  readonly allowed: number[] = [];
  readonly batches: Batch[] = [];

  looks = ({ hiddenLayers }: PaneView): readonly unknown[] => [hiddenLayers];
  restyles = (): readonly unknown[] => [this.hidden];
  select = (): readonly number[] => [0, 1, 2];
  isThere = (tile: number): boolean => this.there.has(tile);
  isAwaited = (tile: number): boolean => !this.there.has(tile);
  weightOf = (): number => this.tileWeight;
  atRest = (_view: PaneView, selection: readonly number[]): Share => ({
    tiles: selection.filter((tile) => this.isThere(tile)),
    smallest: 0,
  });
  rounds = (): number => this.roundsOfAPass;
  needsAfresh = (): boolean => false;
  refine = (): boolean => true;
  want(): void {}
  begin(): void {}
  prepare(): void {}
  clearTexts(): void {}
  shiftTexts(): void {}
  rewriteTexts(): void {}
  finish(): void {}
  dispose(): void {}

  within(_view: PaneView, selection: readonly number[], mostWeight: number) {
    this.allowed.push(mostWeight);
    return { tiles: selection.filter(this.isThere), smallest: 0 };
  }

  draw(batch: Batch) {
    this.batches.push(batch);
    return { segments: 10 * batch.tiles.length, triangles: 0, tiles: batch.tiles.length };
  }
}

let painter: FakePainter;
let picture: ProgressivePicture;
let made: FakeRenderer;
let nowMs: number;

beforeEach(() => {
  painter = new FakePainter();
  made = makeRenderer();
  picture = new ProgressivePicture(painter, made.renderer);
  nowMs = 0;
});

/** Asks for frames of a view until nothing more is wanted. @returns how many */
function toRest(view: PaneView): number {
  for (let frames = 1; frames < 200; frames++) {
    const { wantsMore } = picture.draw(view, (nowMs += 16));
    if (!wantsMore) return frames;
  }
  throw new Error('the picture never comes to rest');
}

describe('the pace', () => {
  it('isn’t learned from pauses of a slow hand', () => {
    for (let notch = 1; notch <= 20; notch++) {
      picture.draw(at(notch), nowMs);
      for (let frame = 0; frame < 6; frame++) picture.draw(at(notch), (nowMs += 17)); // the hand pauses
      nowMs += 17;
    }
    expect(new Set(painter.allowed)).toEqual(new Set([WEIGHT_MOVING.start]));
  });

  it('falls where frames that follow at once are slow', () => {
    for (let frame = 1; frame <= 20; frame++) picture.draw(at(frame), (nowMs += 200));
    expect(painter.allowed.at(-1)).toBe(WEIGHT_MOVING.least);
  });

  it('falls where moves come singly and each takes long', () => {
    for (let notch = 1; notch <= 30; notch++) {
      picture.draw(at(notch), nowMs);
      picture.draw(at(notch), (nowMs += 200)); // the frame was there only then
      for (let frame = 0; frame < 6; frame++) picture.draw(at(notch), (nowMs += 17));
      nowMs += 17;
    }
    expect(painter.allowed.at(-1)).toBe(WEIGHT_MOVING.least);
  });
});

describe('filling', () => {
  it('adds what arrives to the picture, each tile once, and rests only when all is there', () => {
    painter.there = new Set([0]);
    toRest(start);
    expect(picture.isSettled).toBe(false);
    expect(picture.pendingTiles).toBe(2);
    painter.there = new Set([0, 1, 2]);
    const before = painter.batches.length;
    toRest(start);
    expect(picture.isSettled).toBe(true);
    const ontoCanvas = painter.batches.slice(before).filter(({ target }) => !target);
    expect(ontoCanvas.map(({ tiles, isFirst }) => [...tiles, isFirst])).toEqual([[1, 2, false]]);
  });

  it('draws what is at hand afresh where tiles take the place of others, and rests when all is there', () => {
    painter.replaces = true;
    painter.there = new Set([0]);
    toRest(start);
    expect(picture.isSettled).toBe(false);
    const before = painter.batches.length;
    painter.there = new Set([0, 1]);
    toRest(start);
    expect(painter.batches.slice(before).map(({ tiles, isFirst }) => [...tiles, isFirst])).toEqual([[0, 1, true]]);
    painter.there = new Set([0, 1, 2]);
    toRest(start);
    expect(picture.isSettled).toBe(true);
  });

  it('draws nothing more at rest', () => {
    toRest(start);
    const before = painter.batches.length;
    expect(picture.draw(start, (nowMs += 16))).toEqual({ didDraw: false, wantsMore: false });
    expect(painter.batches).toHaveLength(before);
  });
});

describe('smoothing', () => {
  it('goes through all tiles so many rounds a pass', () => {
    painter.roundsOfAPass = 2;
    toRest(start);
    const passes = painter.batches.filter(({ target }) => target);
    expect(passes.length % 2).toBe(0);
    expect(passes.map(({ round }) => round).slice(0, 4)).toEqual([0, 1, 0, 1]);
    expect(passes.map(({ isFirst }) => isFirst).slice(0, 4)).toEqual([true, false, true, false]);
  });

  /** Asks for frames of a view until a condition holds. */
  const until = (view: PaneView, holds: () => boolean): void => {
    for (let frames = 0; !holds(); frames++) {
      if (frames === 200) throw new Error('it never comes to that');
      picture.draw(view, (nowMs += 16));
    }
  };
  const pieces = (): number => painter.batches.filter(({ target }) => target).length;

  it('draws a piece of a pass only when the one before is done', () => {
    painter.tileWeight = WEIGHT_MOVING.start;
    until(start, () => pieces() === 1);
    made.isBusy = true;
    for (let frame = 0; frame < 5; frame++)
      expect(picture.draw(start, (nowMs += 16))).toEqual({ didDraw: false, wantsMore: true });
    expect(pieces()).toBe(1);
    made.isBusy = false;
    picture.draw(start, (nowMs += 16));
    expect(pieces()).toBe(2);
    expect(painter.batches.at(-1)!.tiles).toEqual([1]);
  });

  it('is shown only when its last pass is done, and once', () => {
    const rough = { ...start, smoothEdges: false };
    until(rough, () => pieces() === 1);
    made.isBusy = true;
    const before = made.presented();
    for (let frame = 0; frame < 5; frame++) picture.draw(rough, (nowMs += 16));
    expect([made.presented() - before, picture.isSettled]).toEqual([0, false]);
    made.isBusy = false;
    expect(picture.draw(rough, (nowMs += 16))).toEqual({ didDraw: true, wantsMore: false });
    expect([made.presented() - before, picture.isSettled]).toEqual([1, true]);
  });

  it('is one pass where edges aren’t smoothed', () => {
    toRest({ ...start, smoothEdges: false });
    expect(painter.batches.filter(({ target }) => target)).toHaveLength(1);
  });
});

describe('a change', () => {
  it('of how objects are shown leaves the picture until a whole one replaces it', () => {
    toRest(start);
    const cleared = made.clearedCanvas();
    painter.hidden++;
    const before = painter.batches.length;
    picture.draw(start, (nowMs += 16));
    expect(made.clearedCanvas()).toBe(cleared);
    toRest(start);
    expect(painter.batches.slice(before).every(({ target }) => target !== null)).toBe(true);
    expect(picture.isSettled).toBe(true);
  });

  it('of how objects are shown while tiles are missing begins the picture anew', () => {
    painter.there = new Set([0]);
    toRest(start);
    painter.hidden++;
    const before = painter.batches.length;
    picture.draw(start, (nowMs += 16));
    expect(painter.batches.slice(before).map(({ target, isFirst }) => [target, isFirst])).toEqual([[null, true]]);
  });

  it('of a layer begins the picture anew', () => {
    toRest(start);
    const before = painter.batches.length;
    picture.draw({ ...start, hiddenLayers: new Set([3]) }, (nowMs += 16));
    expect(painter.batches[before]).toMatchObject({ target: null, isFirst: true });
  });

  it('of edges from rough to smooth shows at once', () => {
    const rough = { ...start, smoothEdges: false };
    toRest(rough);
    const before = painter.batches.length;
    toRest(start);
    expect(painter.batches.length - before).toBeGreaterThan(2);
  });
});
