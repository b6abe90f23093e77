import { beforeEach, describe, expect, it } from 'vitest';
import { shownAtFirst, withLayers, withLook, type Shown } from '@gull-pane/core/view/shown';
import { planCamera, screenToWorld, worldToScreen, type Camera } from '@gull-pane/core/camera/camera';
import { scaleLimitsFor } from '@gull-pane/core/camera/limits';
import { zoomAboutMiddle } from '@gull-pane/core/camera/zoom';
import { branchPosition, type StepKind } from '@gull-pane/core/trail/trail';
import { createPaneStore } from './pane-store';
import type { PaneStore } from './pane-state';

const extents = { min: { x: 412_300_000, y: 7_208_200_000, z: 0 }, max: { x: 412_900_000, y: 7_208_600_000, z: 0 } };
const support = [412_300_000, 7_208_200_000, 0, 412_900_000, 7_208_600_000, 0];
const viewport = { widthPx: 1000, heightPx: 700 };

let time = 0;
let prefersStill = false;
const make = (initial?: Camera): PaneStore => {
  const store = createPaneStore('1', {
    shown: shownAtFirst(),
    limits: scaleLimitsFor(extents),
    support: () => support,
    now: () => time,
    prefersStill: () => prefersStill,
    glides: () => true,
    ...(initial ? { initial } : {}),
  });
  store.getState().resize(viewport);
  return store;
};
/** Lets a travel come to its end. */
const arrive = (store: PaneStore): void => {
  time += 5000;
  store.getState().advance();
};
const step = (store: PaneStore, steps: number): void =>
  store.getState().travel((from, size, limits) => zoomAboutMiddle(from, size, 2 ** steps, limits));
const steps = (store: PaneStore): { length: number; index: number } => branchPosition(store.getState().trail);

beforeEach(() => {
  time = 1000;
  prefersStill = false;
});

describe('a pane', () => {
  it('begins with everything fitted, or with the view it is given', () => {
    expect(make().getState().camera.target).toEqual({ x: 412_600_000, y: 7_208_400_000, z: 0 });
    const view = planCamera({ x: 412_500_000, y: 7_208_300_000, z: 0 }, 12);
    expect(make(view).getState().camera).toEqual(view);
    expect(steps(make(view))).toEqual({ length: 1, index: 0 });
  });

  it('keeps centre and scale when it is resized', () => {
    const store = make();
    const { camera } = store.getState();
    store.getState().resize({ widthPx: 400, heightPx: 300 });
    expect(store.getState().camera).toBe(camera);
  });

  it('takes a burst of notches as one step by when they were turned, not by when they were drawn', () => {
    const store = make();
    for (let i = 0; i < 5; i++) {
      store.getState().apply({ kind: 'zoom', at: { x: 10, y: 20 }, factor: 1.2, within: 'burst' }, 2000 + 50 * i);
      time += 900; // a slow machine
    }
    expect(steps(store)).toEqual({ length: 2, index: 1 });
    store.getState().apply({ kind: 'zoom', at: { x: 10, y: 20 }, factor: 1.2, within: 'burst' }, 4000);
    expect(steps(store)).toEqual({ length: 3, index: 2 });
  });

  it('takes a drag as one step at its end', () => {
    const store = make();
    for (let i = 0; i < 20; i++) store.getState().apply({ kind: 'pan', dx: 3, dy: 1, within: 'drag' }, time);
    expect(steps(store)).toEqual({ length: 1, index: 0 });
    store.getState().apply({ kind: 'dragEnd' }, time);
    expect(steps(store)).toEqual({ length: 2, index: 1 });
    store.getState().back();
    arrive(store);
    expect(store.getState().camera.target).toEqual({ x: 412_600_000, y: 7_208_400_000, z: 0 });
  });

  it('travels, is on its way between, and arrives exactly', () => {
    const store = make();
    const before = store.getState().camera;
    step(store, 1);
    expect(store.getState().isFlying).toBe(true);
    time += 60;
    store.getState().advance();
    const between = store.getState().camera.unitsPerPx;
    expect(between).toBeLessThan(before.unitsPerPx);
    expect(between).toBeGreaterThan(before.unitsPerPx / 2);
    arrive(store);
    expect(store.getState().camera.unitsPerPx).toBe(before.unitsPerPx / 2);
    expect(store.getState().isFlying).toBe(false);
  });

  it('goes on from where a travel leads when a key is pressed again', () => {
    const store = make();
    const before = store.getState().camera;
    for (let i = 0; i < 3; i++) step(store, 1);
    arrive(store);
    expect(store.getState().camera.unitsPerPx).toBe(before.unitsPerPx / 8);
  });

  it('is taken over by the hand in the middle of a travel', () => {
    const store = make();
    step(store, 2);
    time += 60;
    store.getState().advance();
    const seen = store.getState().camera;
    store.getState().apply({ kind: 'pan', dx: 10, dy: 0, within: 'drag' }, time);
    arrive(store);
    expect(store.getState().camera.unitsPerPx).toBe(seen.unitsPerPx);
  });

  it('jumps where motion is not wanted', () => {
    prefersStill = true;
    const store = make();
    step(store, -1);
    expect(store.getState().isFlying).toBe(false);
    store.getState().back();
    store.getState().forward();
    expect(steps(store)).toEqual({ length: 2, index: 1 });
  });
});

describe('framing', () => {
  it('keeps its first corner in the drawing while the view moves under it', () => {
    const store = make();
    const corner = screenToWorld(store.getState().camera, viewport, { x: 200, y: 300 });
    store.getState().apply({ kind: 'zoom', at: { x: 700, y: 100 }, factor: 2, within: 'burst' }, time);
    const { camera } = store.getState();
    const other = screenToWorld(camera, viewport, { x: 900, y: 500 });
    store.getState().apply({ kind: 'frame', corner, at: { x: 900, y: 500 } }, time);
    arrive(store);
    for (const world of [corner, other]) {
      const at = worldToScreen(store.getState().camera, viewport, world);
      const isOnEdge =
        [at.x, viewport.widthPx - at.x].some((gap) => Math.abs(gap) < 0.01) ||
        [at.y, viewport.heightPx - at.y].some((gap) => Math.abs(gap) < 0.01);
      expect(isOnEdge).toBe(true);
    }
  });
});

describe('a pan that is let go while it moves', () => {
  it('glides on with the speed of the hand and is one step', () => {
    const store = make();
    const at = (): number => store.getState().camera.target.x / store.getState().camera.unitsPerPx;
    store.getState().apply({ kind: 'pan', dx: -20, dy: 0, within: 'drag' }, time);
    store.getState().apply({ kind: 'dragEnd', velocity: { x: -1, y: 0 } }, time);
    expect(steps(store)).toEqual({ length: 2, index: 1 });
    const begin = at();
    time += 10;
    store.getState().advance();
    expect(at() - begin).toBeCloseTo(10, 0); // 1 px a ms
    arrive(store);
    expect(at() - begin).toBeGreaterThan(100);
    expect(steps(store)).toEqual({ length: 2, index: 1 });
    store.getState().back();
    arrive(store);
    expect(store.getState().camera.target.x).toBe(412_600_000);
  });

  it('stands where motion is not wanted', () => {
    prefersStill = true;
    const store = make();
    store.getState().apply({ kind: 'pan', dx: -20, dy: 0, within: 'drag' }, time);
    const { camera } = store.getState();
    store.getState().apply({ kind: 'dragEnd', velocity: { x: -1, y: 0 } }, time);
    arrive(store);
    expect(store.getState().camera).toBe(camera);
  });
});

describe('the trail', () => {
  it('is scrubbed between its views, and let go at the nearest', () => {
    const store = make();
    for (let i = 0; i < 3; i++) {
      step(store, 1);
      arrive(store);
    }
    const scales = store.getState().trail.entries.map(({ camera }) => camera.unitsPerPx);
    store.getState().scrub(1.5);
    const between = store.getState().camera.unitsPerPx;
    expect(between).toBeLessThan(scales[1]!);
    expect(between).toBeGreaterThan(scales[2]!);
    store.getState().scrub(0.3);
    expect(steps(store)).toEqual({ length: 4, index: 3 }); // nothing is decided yet
    store.getState().endScrub();
    arrive(store);
    expect(store.getState().camera.unitsPerPx).toBe(scales[0]);
    expect(steps(store)).toEqual({ length: 4, index: 0 });
    store.getState().forward();
    arrive(store);
    expect(store.getState().camera.unitsPerPx).toBe(scales[1]);
  });

  it('reaches a branch that was left', () => {
    const store = make();
    step(store, 1);
    arrive(store);
    const left = store.getState().camera;
    store.getState().back();
    arrive(store);
    step(store, -1);
    arrive(store);
    store.getState().goTo(1);
    arrive(store);
    expect(store.getState().camera).toEqual(left);
  });
});

describe('what a pane shows', () => {
  const shown = (store: PaneStore) => store.getState().shown;
  /** Some acts, each some seconds after the one before. */
  const act = (store: PaneStore, change: (now: Shown) => Shown, kind: StepKind): void => {
    time += 5000;
    store.getState().update(change, kind);
  };

  it('is brought back by Back like a place, and a movement that was made after it isn’t lost', () => {
    const store = make();
    const first = shown(store);
    act(store, (now) => withLook(now, 'lines'), 'look');
    act(store, (now) => withLayers(now, [7], false), 'layers');
    const hiding = shown(store);
    step(store, 2);
    arrive(store);
    const close = store.getState().camera;
    for (let i = 0; i < 2; i++) {
      store.getState().back();
      arrive(store);
    }
    expect(shown(store).hiddenLayers.size).toBe(0);
    expect(shown(store).look).toBe('lines');
    store.getState().back();
    expect(shown(store)).toBe(first);
    for (let i = 0; i < 3; i++) {
      store.getState().forward();
      arrive(store);
    }
    expect(shown(store)).toBe(hiding);
    expect(store.getState().camera).toEqual(close);
  });

  it('is one step for acts of one kind that follow closely, and none where nothing changes', () => {
    const store = make();
    for (let i = 0; i < 5; i++) {
      time += 100;
      store.getState().update((now) => withLayers(now, [i], false), 'layers');
    }
    expect(steps(store)).toEqual({ length: 2, index: 1 });
    act(store, (now) => withLayers(now, [3], false), 'layers');
    expect(steps(store)).toEqual({ length: 2, index: 1 });
  });

  it('is one step for a drag, however long, once it ends', () => {
    const store = make();
    for (const look of ['lines', 'shaded', 'materials'] as const) {
      time += 2000;
      store.getState().update((now) => withLook(now, look), null);
    }
    expect(steps(store)).toEqual({ length: 1, index: 0 });
    store.getState().keepShown('look');
    expect(steps(store)).toEqual({ length: 2, index: 1 });
    store.getState().back();
    expect(shown(store).look).toBe('shaded-edges');
  });

  it('changes with the place in one go when a kept view is gone to: who watches is told once', () => {
    prefersStill = true;
    const store = make();
    const camera = { ...store.getState().camera, unitsPerPx: 5 };
    let told = 0;
    store.subscribe(() => told++);
    store.getState().goToView({ camera, shown: withLayers(withLook(shown(store), 'lines'), [1], false) });
    expect(told).toBe(1);
    expect(store.getState().camera).toEqual(camera);
    store.getState().goToView({ camera, shown: { ...shown(store) } });
    expect(steps(store)).toEqual({ length: 2, index: 1 });
  });

  it('is set in the middle of a travel without ending it', () => {
    const store = make();
    step(store, 3);
    time += 10;
    store.getState().advance();
    store.getState().update((now) => withLook(now, 'lines'), 'look');
    expect(store.getState().isFlying).toBe(true);
    arrive(store);
    const there = store.getState().camera;
    store.getState().back();
    arrive(store);
    expect(store.getState().camera).toEqual(there);
    expect(shown(store).look).toBe('shaded-edges');
  });
});
