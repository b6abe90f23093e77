import { beforeEach, describe, expect, it } from 'vitest';
import { identityQuaternion } from '@gull-pane/core/geometry/quaternion';
import { planeByFace } from '@gull-pane/core/plane/work-plane';
import { createClipsStore } from './clips-store';
import { createOnTopStore } from './on-top-store';
import { createDrawingStore, type DrawingContent } from './drawing-store';
import type { PaneParts } from './pane-parts';
import { showAs, shownNow } from './pane-shows';
import { createPaneStore } from './pane-store';

const content = (kind: 'flat' | 'solid', revision = 1): DrawingContent =>
  ({
    drawing: { id: 'd', kind, revision, counts: { objects: 40 } },
    layers: ['Walls', 'Dimensions', 'Pumps'].map((name, id) => ({ id, name, isOff: false, support: [] })),
  }) as unknown as DrawingContent;

function paneOf(kind: 'flat' | 'solid', revision = 1): Omit<PaneParts, 'seen'> {
  return {
    drawing: createDrawingStore(content(kind, revision), null),
    pane: createPaneStore('1', {
      ...{ limits: { minUnitsPerPx: 0.1, maxUnitsPerPx: 10 }, support: () => [], now: () => 0 },
      ...{ prefersStill: () => true, glides: () => false },
    }),
    onTop: createOnTopStore(),
    clips: createClipsStore({
      picked: () => [],
      all: () => [0, 0, 0, 9, 9, 9],
      faceAt: () => null,
      cornersOf: () => [],
      most: 4,
    }),
  };
}
let one: Omit<PaneParts, 'seen'>;
beforeEach(() => {
  one = paneOf('solid');
});

describe('marks and the work plane', () => {
  it('go along, and are as usual again where nothing is told', () => {
    const plane = planeByFace({ x: 1, y: 2, z: 3 }, { x: 1, y: 0, z: 0 });
    one.onTop.getState().setPlane(plane, 'South side');
    one.onTop.getState().setMarkLayerShown('Checks', false);
    const shows = shownNow(one);
    expect(shows).toMatchObject({ hiddenMarkLayers: ['Checks'], plane: { ...plane, name: 'South side' } });
    const other = paneOf('solid');
    showAs(shows, other);
    expect(other.onTop.getState()).toMatchObject({ plane, planeName: 'South side', isWorld: false });
    expect(other.onTop.getState().hiddenMarkLayers.has('Checks')).toBe(true);
    showAs(shownNow(paneOf('solid')), other);
    expect(other.onTop.getState()).toMatchObject({ isWorld: true, planeName: '', showsMarks: true });
    expect(other.onTop.getState().hiddenMarkLayers.size).toBe(0);
  });
});

describe('how a pane shows its drawing', () => {
  it('is the same in another pane that takes it over: look, layers, objects, clips', () => {
    one.pane.getState().setLook('materials');
    one.drawing.getState().setLayersVisible([1], false);
    one.drawing.getState().hideObjects([3, 4, 5, 17]);
    one.clips.getState().addBox();
    one.clips.getState().change(1, { keeps: 'outside', orientation: { ...identityQuaternion, x: 0.6, w: 0.8 } });
    const shows = shownNow(one);
    expect(shows).toMatchObject({ look: 'materials', hiddenLayers: ['Dimensions'], hiddenObjects: '3-5,17' });
    const other = paneOf('solid');
    other.drawing.getState().setLayersVisible([0, 2], false);
    other.drawing.getState().hideObjects([9]);
    showAs(shows, other);
    expect(shownNow(other)).toEqual(shows);
  });

  it('is told by kinds of things in a flat drawing, and those that aren’t told are shown', () => {
    const plan = paneOf('flat');
    plan.pane.getState().setKinds({ texts: false, weights: false });
    const shows = shownNow(plan);
    expect(shows.kindsOff).toEqual(['texts', 'weights']);
    expect(shows.look).toBeUndefined();
    const other = paneOf('flat');
    other.pane.getState().setKinds({ fills: false });
    showAs(shows, other);
    expect(shownNow(other)).toEqual(shows);
    // a card of an older version tells nothing of kinds
    showAs({ hiddenLayers: [], hiddenObjects: '', revision: 1, clips: [] }, other);
    expect(shownNow(other).kindsOff).toEqual([]);
  });

  it('finds layers by their names, but leaves out objects of another import', () => {
    one.drawing.getState().setLayersVisible([2], false);
    one.drawing.getState().hideObjects([3]);
    const anew = paneOf('solid', 2);
    showAs(shownNow(one), anew);
    expect(shownNow(anew)).toMatchObject({ hiddenLayers: ['Pumps'], hiddenObjects: '', revision: 2 });
  });
});
