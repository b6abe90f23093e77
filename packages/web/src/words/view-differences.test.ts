import { describe, expect, it } from 'vitest';
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { toPerspective } from '@gull-pane/core/camera/projection';
import { planeByFace } from '@gull-pane/core/plane/work-plane';
import {
  hideObjects,
  shownAtFirst,
  withGroundPlan,
  withKinds,
  withLayers,
  withLook,
  withMarks,
  withWorkPlane,
  type Shown,
} from '@gull-pane/core/view/shown';
import { viewDifferences } from './view-differences';

const camera = planCamera({ x: 412600000, y: 7208400000, z: 0 }, 4);
const shown = shownAtFirst([1]);
const kept = { camera, shown };
const told = (now: Camera, as: Shown = shown): string[] => viewDifferences({ camera: now, shown: as }, kept);

describe('what going to a view would change, in words', () => {
  it('is nothing where the pane shows just that', () => {
    expect(told(camera)).toEqual([]);
    expect(told({ ...camera, target: { ...camera.target, x: camera.target.x + 1 } })).toEqual([]);
  });

  it('tells place, scale, direction and projection', () => {
    expect(told({ ...camera, target: { ...camera.target, x: 412_700_000 } })).toEqual(['another place']);
    expect(told({ ...camera, unitsPerPx: 8 })).toEqual(['closer']);
    expect(told({ ...camera, unitsPerPx: 2 })).toEqual(['farther']);
    expect(told({ ...camera, orientation: { x: 0, y: 0, z: Math.SQRT1_2, w: Math.SQRT1_2 } })).toEqual([
      'another direction',
    ]);
    expect(told(toPerspective(camera))).toEqual(['in parallel']);
  });

  it('tells everything that is shown in another way', () => {
    expect(told(camera, withLook(shown, 'lines'))).toEqual(['look Shaded + edges']);
    expect(told(camera, withKinds(shown, { texts: false }))).toEqual(['with texts']);
    expect(told(camera, withLayers(shown, [1], true))).toEqual(['1 layer hidden']);
    expect(told(camera, withLayers(shown, [2, 3], false))).toEqual(['2 layers shown']);
    expect(told(camera, hideObjects(shown, [3], 9))).toEqual(['1 object shown']);
    expect(told(camera, withMarks(shown, false))).toEqual(['marks shown']);
    const side = planeByFace({ x: 0, y: 0, z: 0 }, { x: 1, y: 0, z: 0 });
    expect(told(camera, withWorkPlane(shown, side))).toEqual(['another work plane']);
    expect(told(camera, withGroundPlan(shown, 'plan'))).toEqual(['no plan on the ground']);
  });
});
