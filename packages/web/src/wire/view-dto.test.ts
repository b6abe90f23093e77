import { describe, expect, it } from 'vitest';
import { identityQuaternion } from '@gull-pane/core/geometry/quaternion';
import { planeByFace } from '@gull-pane/core/plane/work-plane';
import {
  addClip,
  changeClip,
  hideObjects,
  shownAtFirst,
  withGroundPlan,
  withKinds,
  withLayers,
  withLook,
  withMarkLayers,
  withWorkPlane,
} from '@gull-pane/core/view/shown';
import { shownDifferences } from '@gull-pane/core/view/view';
import { shownFromDto, shownToDto, type NamedContent } from './view-dto';

const OBJECTS = 40;
const content = (kind: 'flat' | 'solid', revision = 1): NamedContent =>
  ({
    drawing: { id: 'd', kind, revision, counts: { objects: OBJECTS } },
    layers: ['Walls', 'Dimensions', 'Pumps'].map((name, id) => ({ id, name, isOff: false, support: [] })),
  }) as unknown as NamedContent;
const model = content('solid');
const first = shownAtFirst();
const box = {
  kind: 'box',
  centre: { x: 1, y: 2, z: 3 },
  half: { x: 5, y: 5, z: 5 },
  orientation: identityQuaternion,
} as const;

describe('how a drawing is shown, as it is kept', () => {
  it('comes back whole: look, layers, objects, clips, marks, work plane, ground', () => {
    const turned = { ...identityQuaternion, x: 0.6, w: 0.8 };
    const plane = planeByFace({ x: 1, y: 2, z: 3 }, { x: 1, y: 0, z: 0 });
    const shown = [
      (now: typeof first) => withLook(now, 'materials'),
      (now: typeof first) => withLayers(now, [1], false),
      (now: typeof first) => hideObjects(now, [3, 4, 5, 17], OBJECTS),
      (now: typeof first) => changeClip(addClip(now, box), 1, { keeps: 'outside', orientation: turned }),
      (now: typeof first) => withMarkLayers(now, ['Checks'], false),
      (now: typeof first) => withWorkPlane(now, plane, 'South side'),
      (now: typeof first) => withGroundPlan(now, '00000000-0000-4000-8000-000000000000'),
    ].reduce((now, act) => act(now), first);
    const dto = shownToDto(shown, model);
    expect(dto).toMatchObject({ look: 'materials', hiddenLayers: ['Dimensions'], hiddenObjects: '3-5,17' });
    expect(dto).toMatchObject({ hiddenMarkLayers: ['Checks'], plane: { ...plane, name: 'South side' } });
    const other = hideObjects(withLayers(first, [0, 2], false), [9], OBJECTS);
    expect(shownDifferences(shownFromDto(dto, model, other), shown)).toEqual([]);
    // and as usual where nothing is told
    expect(shownDifferences(shownFromDto(shownToDto(first, model), model, shown), first)).toEqual([]);
  });

  it('tells the kinds of a flat drawing that aren’t shown; those that aren’t told are', () => {
    const plan = content('flat');
    const dto = shownToDto(withKinds(first, { texts: false, weights: false }), plan);
    expect(dto.kindsOff).toEqual(['texts', 'weights']);
    expect(dto.look).toBeUndefined();
    const other = withKinds(first, { fills: false });
    expect(shownFromDto(dto, plan, other).kinds).toMatchObject({ fills: true, texts: false, weights: false });
    // a card of an older version tells nothing of kinds
    const older = { hiddenLayers: [], hiddenObjects: '', revision: 1, clips: [] };
    expect(shownFromDto(older, plan, other).kinds).toEqual(first.kinds);
  });

  it('finds layers by their names, but leaves out objects of another import', () => {
    const dto = shownToDto(hideObjects(withLayers(first, [2], false), [3], OBJECTS), model);
    const anew = shownFromDto(dto, content('solid', 2), first);
    expect(anew.hiddenLayers).toEqual(new Set([2]));
    expect(anew.hiddenObjects).toBeNull();
  });
});
