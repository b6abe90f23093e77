import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera, type Camera } from '../camera/camera.ts';
import {
  BURST_GAP_MS,
  branchPosition,
  canGoBack,
  canGoForward,
  currentCamera,
  goBack,
  goForward,
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
});
