import { beforeEach, describe, expect, it } from 'vitest';
import { shownAtFirst } from '@gull-pane/core/view/shown';
import { planCamera } from '@gull-pane/core/camera/camera';
import { panBy } from '@gull-pane/core/camera/pan';
import type { TieHolds } from '@gull-pane/core/panes/tie';
import { createPaneStore } from '../store/pane-store';
import type { PaneStore } from '../store/pane-state';
import type { PaneParts } from '../store/pane-parts';
import { createPanesStore, type PanesStore } from '../store/panes-store';
import { TieFollower } from './follow-ties';

const extents = { min: { x: 0, y: 0, z: 0 }, max: { x: 60_000, y: 40_000, z: 0 } };
let nowMs = 0;
let stores: Map<string, PaneStore>;
let panes: PanesStore;
let isStill = true;

function paneAt(id: string, x: number): PaneStore {
  const store = createPaneStore(id, {
    shown: shownAtFirst(),
    limits: { minUnitsPerPx: 0.01, maxUnitsPerPx: 1000 },
    support: () => [0, 0, 0, 60_000, 40_000, 0],
    now: () => nowMs,
    prefersStill: () => isStill,
    glides: () => false,
    initial: planCamera({ x, y: 100, z: 0 }, 10),
  });
  store.getState().resize({ widthPx: 400, heightPx: 300 });
  return store;
}
beforeEach(() => {
  [nowMs, isStill] = [0, true];
  stores = new Map(['1', '2', '3'].map((id, k) => [id, paneAt(id, 1000 * k)]));
  const partsOf = (id: string): PaneParts | undefined => {
    const pane = stores.get(id);
    // of a drawing only its kind and extents are asked for
    return (
      pane && ({ pane, drawing: { getState: () => ({ drawing: { kind: 'flat', extents } }) } } as unknown as PaneParts)
    );
  };
  panes = createPanesStore('1', {
    add: () => undefined,
    drop: () => undefined,
    copyView: () => undefined,
    fitAll: () => undefined,
    planAndModel: () => Promise.resolve(),
    beforeAndAfter: () => Promise.resolve(),
    openIn: () => Promise.resolve(),
    planWithElevations: () => Promise.resolve(),
    openApart: () => undefined,
    copyLink: () => Promise.resolve(),
    sharesPlace: () => true,
    capture: () => null,
    restore: () => undefined,
    follow: (tie) => follower.begin(tie),
  });
  const follower = new TieFollower(panes, partsOf);
  for (const id of stores.keys()) follower.watch(id);
});
const at = (id: string) => stores.get(id)!.getState();
const place: TieHolds = { place: true, scale: false, direction: 'free' };

describe('panes that are tied', () => {
  it('take the place of the first at once, and then follow whoever moves, down a chain of ties', () => {
    panes.getState().tie('1', '2', place);
    panes.getState().tie('2', '3', { ...place, scale: true });
    expect([at('2').camera.target.x, at('3').camera.target.x]).toEqual([0, 0]);
    at('3').travel((camera) => panBy(camera, -50, 0));
    expect(['1', '2', '3'].map((id) => at(id).camera.target.x)).toEqual([500, 500, 500]);
    at('2').travel((camera) => ({ ...camera, unitsPerPx: 5 }));
    expect(['1', '2', '3'].map((id) => at(id).camera.unitsPerPx)).toEqual([10, 5, 5]);
  });

  it('move with a drag, and have it as one step of their trail', () => {
    panes.getState().tie('1', '2', place);
    const before = at('2').trail.entries.length;
    for (let k = 0; k < 5; k++) at('1').apply({ kind: 'pan', dx: -10, dy: 0, within: 'drag' }, (nowMs += 16));
    expect(at('2').camera.target.x).toBe(500);
    expect(at('2').trail.entries).toHaveLength(before);
    at('1').apply({ kind: 'dragEnd' }, (nowMs += 16));
    expect(at('2').trail.entries).toHaveLength(before + 1);
    nowMs += 5000;
    at('2').back();
    expect(at('2').camera.target.x).toBe(0);
    expect(at('1').camera.target.x).toBe(0);
  });

  it('travel along, and arrive at the very same place', () => {
    panes.getState().tie('1', '2', { ...place, scale: true });
    isStill = false;
    const steps = at('2').trail.entries.length;
    at('1').travel((camera) => ({ ...camera, target: { x: 30_000, y: 20_000, z: 0 }, unitsPerPx: 2 }));
    nowMs += 40;
    at('1').advance();
    const between = at('1').camera.target.x;
    expect(between).toBeGreaterThan(0);
    expect(between).toBeLessThan(30_000);
    expect(at('2').camera.target.x).toBe(between);
    expect(at('2').trail.entries).toHaveLength(steps);
    nowMs += 5000;
    at('1').advance();
    expect(at('2').camera).toEqual(at('1').camera);
    expect(at('2').trail.entries).toHaveLength(steps + 1);
  });

  it('go their own ways once the tie is broken', () => {
    panes.getState().tie('1', '2', place);
    panes.getState().untie('2', '1');
    at('1').travel((camera) => panBy(camera, -50, 0));
    expect(at('2').camera.target.x).toBe(0);
  });

  it('in a ring move once each', () => {
    panes.getState().tie('1', '2', place);
    panes.getState().tie('2', '3', place);
    panes.getState().tie('3', '1', place);
    let changes = 0;
    stores.get('2')!.subscribe(() => changes++);
    at('1').travel((camera) => panBy(camera, -50, 0));
    expect(['1', '2', '3'].map((id) => at(id).camera.target.x)).toEqual([500, 500, 500]);
    expect(changes).toBeLessThanOrEqual(2); // its view, and its step of the trail
  });
});
