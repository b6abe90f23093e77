import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, type Camera } from '../camera/camera.ts';
import { shownAtFirst, withLayers, withLook } from '../view/shown.ts';
import type { View } from '../view/view.ts';
import {
  BURST_GAP_MS,
  branchOf,
  branchPosition,
  canGoBack,
  canGoForward,
  currentCamera,
  currentView,
  goBack,
  goForward,
  goToEntry,
  leftTips,
  pruned,
  record,
  startTrail,
} from './trail.ts';

const view = (x: number): Camera => planCamera({ x, y: 0, z: 0 }, 1);
const first = shownAtFirst();
const viewAt = (x: number, shown = first): View => ({ camera: view(x), shown });

describe('trail', () => {
  it('makes one step of a burst of notches and a new one after a pause', () => {
    let trail = startTrail(viewAt(0), 0);
    for (let i = 1; i <= 10; i++) trail = record(trail, viewAt(i), 'wheel', i * 100);
    expect(branchPosition(trail)).toEqual({ length: 2, index: 1 });
    trail = record(trail, viewAt(11), 'wheel', 1000 + BURST_GAP_MS + 1);
    expect(branchPosition(trail)).toEqual({ length: 3, index: 2 });
    expect(currentCamera(goBack(trail))).toEqual(view(10));
    expect(currentCamera(goBack(goBack(trail)))).toEqual(view(0));
  });

  it('holds what is shown as well: acts of one kind in a burst are one step, others are their own', () => {
    let trail = startTrail(viewAt(0), 0);
    const lined = withLook(first, 'lines');
    trail = record(trail, viewAt(0, lined), 'look', 100);
    trail = record(trail, viewAt(0, withLayers(lined, [3], false)), 'layers', 200);
    trail = record(trail, viewAt(0, withLayers(lined, [3, 4], false)), 'layers', 300);
    expect(branchPosition(trail)).toEqual({ length: 3, index: 2 });
    trail = record(trail, viewAt(9, withLayers(lined, [3, 4], false)), 'jump', 400);
    expect(currentView(goBack(trail)).shown.hiddenLayers).toEqual(new Set([3, 4]));
    expect(currentView(goBack(goBack(trail))).shown).toBe(lined);
    expect(currentView(goBack(goBack(goBack(trail)))).shown).toBe(first);
    // the movement that was made after them isn't lost
    expect(currentCamera(goForward(goForward(goForward(goBack(goBack(goBack(trail)))))))).toEqual(view(9));
  });

  it('never merges drags or jumps', () => {
    let trail = startTrail(viewAt(0), 0);
    trail = record(trail, viewAt(1), 'drag', 1);
    trail = record(trail, viewAt(2), 'drag', 2);
    trail = record(trail, viewAt(3), 'jump', 3);
    expect(branchPosition(trail).length).toBe(4);
  });

  it('takes no note of a view that did not change', () => {
    const trail = startTrail(viewAt(0), 0);
    expect(record(trail, viewAt(0), 'jump', 9)).toBe(trail);
  });

  it('keeps the branch that was left', () => {
    let trail = startTrail(viewAt(0), 0);
    trail = record(trail, viewAt(1), 'jump', 1);
    trail = record(goBack(trail), viewAt(2), 'jump', 2);
    expect(trail.entries.map(({ camera }) => camera.target.x)).toEqual([0, 1, 2]);
    expect(branchPosition(trail)).toEqual({ length: 2, index: 1 });
  });

  it('comes back to the same view by back and forward, whatever was done before', () => {
    const acts = fc.array(
      fc.oneof(fc.constant('back' as const), fc.constant('forward' as const), fc.integer({ min: 0, max: 50 })),
    );
    fc.assert(
      fc.property(acts, (list) => {
        let trail = startTrail(viewAt(-1), 0);
        list.forEach((act, i) => {
          trail =
            act === 'back'
              ? goBack(trail)
              : act === 'forward'
                ? goForward(trail)
                : record(trail, viewAt(act), 'jump', i);
          if (canGoBack(trail)) expect(goForward(goBack(trail)).current).toBe(trail.current);
          if (canGoForward(trail)) expect(goBack(goForward(trail)).current).toBe(trail.current);
          const { length, index } = branchPosition(trail);
          expect(index).toBeLessThan(length);
        });
      }),
    );
  });

  it('finds the branches that were left, and goes to any view', () => {
    let trail = startTrail(viewAt(0), 0);
    for (let i = 1; i <= 3; i++) trail = record(trail, viewAt(i), 'jump', i);
    trail = goBack(goBack(trail)); // at 1
    trail = record(trail, viewAt(10), 'jump', 10);
    expect(branchOf(trail)).toEqual([0, 1, 4]);
    expect(leftTips(trail, 1)).toEqual([3]);
    trail = goToEntry(trail, 3);
    expect(branchOf(trail)).toEqual([0, 1, 2, 3]);
    expect(leftTips(trail, 1)).toEqual([4]);
    expect(currentCamera(goForward(goBack(trail)))).toEqual(view(3));
  });

  it('stays a tree of one root when the oldest is forgotten, and forgets the present view last', () => {
    const acts = fc.array(fc.oneof(fc.constant('back' as const), fc.integer({ min: 0, max: 500 })), { minLength: 5 });
    fc.assert(
      fc.property(acts, fc.integer({ min: 1, max: 20 }), (list, most) => {
        let trail = startTrail(viewAt(-1), 0);
        list.forEach((act, i) => {
          trail = act === 'back' ? goBack(trail) : record(trail, viewAt(act), 'jump', i);
        });
        const small = pruned(trail, most);
        expect(small.entries.length).toBeLessThanOrEqual(most);
        expect(currentCamera(small)).toBe(currentCamera(trail));
        expect(small.entries.filter(({ parent }) => parent < 0)).toHaveLength(1);
        for (let i = 0; i < small.entries.length; i++) expect(small.entries[i]!.parent).toBeLessThan(i);
        expect(branchOf(small)).toContain(small.current);
      }),
    );
  });

  it('is bounded', () => {
    let trail = startTrail(viewAt(0), 0);
    for (let i = 1; i < 3000; i++) trail = record(trail, viewAt(i), 'jump', i);
    expect(trail.entries.length).toBeLessThanOrEqual(1200);
    expect(currentCamera(trail)).toEqual(view(2999));
    expect(currentCamera(goBack(trail))).toEqual(view(2998));
  });
});
