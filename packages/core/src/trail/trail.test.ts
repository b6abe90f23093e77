import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, type Camera } from '../camera/camera.ts';
import {
  BURST_GAP_MS,
  branchOf,
  branchPosition,
  canGoBack,
  canGoForward,
  currentCamera,
  goBack,
  goForward,
  goToEntry,
  leftTips,
  pruned,
  record,
  startTrail,
} from './trail.ts';

const view = (x: number): Camera => planCamera({ x, y: 0, z: 0 }, 1);

describe('trail', () => {
  it('makes one step of a burst of notches and a new one after a pause', () => {
    let trail = startTrail(view(0), 0);
    for (let i = 1; i <= 10; i++) trail = record(trail, view(i), 'wheel', i * 100);
    expect(branchPosition(trail)).toEqual({ length: 2, index: 1 });
    trail = record(trail, view(11), 'wheel', 1000 + BURST_GAP_MS + 1);
    expect(branchPosition(trail)).toEqual({ length: 3, index: 2 });
    expect(currentCamera(goBack(trail))).toEqual(view(10));
    expect(currentCamera(goBack(goBack(trail)))).toEqual(view(0));
  });

  it('never merges drags or jumps', () => {
    let trail = startTrail(view(0), 0);
    trail = record(trail, view(1), 'drag', 1);
    trail = record(trail, view(2), 'drag', 2);
    trail = record(trail, view(3), 'jump', 3);
    expect(branchPosition(trail).length).toBe(4);
  });

  it('takes no note of a view that did not change', () => {
    const trail = startTrail(view(0), 0);
    expect(record(trail, view(0), 'jump', 9)).toBe(trail);
  });

  it('keeps the branch that was left', () => {
    let trail = startTrail(view(0), 0);
    trail = record(trail, view(1), 'jump', 1);
    trail = record(goBack(trail), view(2), 'jump', 2);
    expect(trail.entries.map(({ camera }) => camera.target.x)).toEqual([0, 1, 2]);
    expect(branchPosition(trail)).toEqual({ length: 2, index: 1 });
  });

  it('comes back to the same view by back and forward, whatever was done before', () => {
    const acts = fc.array(
      fc.oneof(fc.constant('back' as const), fc.constant('forward' as const), fc.integer({ min: 0, max: 50 })),
    );
    fc.assert(
      fc.property(acts, (list) => {
        let trail = startTrail(view(-1), 0);
        list.forEach((act, i) => {
          trail =
            act === 'back' ? goBack(trail) : act === 'forward' ? goForward(trail) : record(trail, view(act), 'jump', i);
          if (canGoBack(trail)) expect(goForward(goBack(trail)).current).toBe(trail.current);
          if (canGoForward(trail)) expect(goBack(goForward(trail)).current).toBe(trail.current);
          const { length, index } = branchPosition(trail);
          expect(index).toBeLessThan(length);
        });
      }),
    );
  });

  it('finds the branches that were left, and goes to any view', () => {
    let trail = startTrail(view(0), 0);
    for (let i = 1; i <= 3; i++) trail = record(trail, view(i), 'jump', i);
    trail = goBack(goBack(trail)); // at 1
    trail = record(trail, view(10), 'jump', 10);
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
        let trail = startTrail(view(-1), 0);
        list.forEach((act, i) => {
          trail = act === 'back' ? goBack(trail) : record(trail, view(act), 'jump', i);
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
    let trail = startTrail(view(0), 0);
    for (let i = 1; i < 3000; i++) trail = record(trail, view(i), 'jump', i);
    expect(trail.entries.length).toBeLessThanOrEqual(1200);
    expect(currentCamera(trail)).toEqual(view(2999));
    expect(currentCamera(goBack(trail))).toEqual(view(2998));
  });
});
