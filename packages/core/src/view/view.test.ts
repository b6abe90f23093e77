import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planCamera } from '../camera/camera.ts';
import { identityQuaternion } from '../geometry/quaternion.ts';
import { worldPlane } from '../plane/work-plane.ts';
import { solidLooks } from '../solid/solid-looks.ts';
import {
  addClip,
  changeClip,
  drawClip,
  hideObjects,
  isMarkShown,
  kindNames,
  removeClip,
  showAllObjects,
  showOnlyObjects,
  shownAtFirst,
  toggleClips,
  withGroundPlan,
  withKinds,
  withLayers,
  withLook,
  withMarkLayers,
  withMarks,
  withWorkPlane,
  type Shown,
} from './shown.ts';
import { differences, restore, sameView, type View } from './view.ts';

const OBJECTS = 20;
const first = shownAtFirst([2]);
const at = (x: number, shown: Shown = first): View => ({ camera: planCamera({ x, y: 0, z: 0 }, 1), shown });
const box = { kind: 'box', centre: { x: 0, y: 0, z: 0 }, half: { x: 5, y: 5, z: 5 } } as const;
const tilted = { ...worldPlane, origin: { x: 1, y: 2, z: 3 } };

/** Everything that can be done to what is shown. */
const acts: fc.Arbitrary<(shown: Shown) => Shown> = fc.oneof(
  fc.constantFrom(...solidLooks).map((look) => (shown: Shown) => withLook(shown, look)),
  fc.tuple(fc.constantFrom(...kindNames), fc.boolean()).map(
    ([kind, on]) =>
      (shown: Shown) =>
        withKinds(shown, { [kind]: on }),
  ),
  fc.tuple(fc.array(fc.nat(9)), fc.boolean()).map(
    ([layers, on]) =>
      (shown: Shown) =>
        withLayers(shown, layers, on),
  ),
  fc.array(fc.nat(OBJECTS - 1)).map((objects) => (shown: Shown) => hideObjects(shown, objects, OBJECTS)),
  fc.array(fc.nat(OBJECTS - 1)).map((objects) => (shown: Shown) => showOnlyObjects(shown, objects, OBJECTS)),
  fc.constant(showAllObjects),
  fc.constant((shown: Shown) => addClip(shown, { ...box, orientation: identityQuaternion })),
  fc.nat(5).map((id) => (shown: Shown) => removeClip(shown, id)),
  fc.nat(5).map((id) => (shown: Shown) => drawClip(shown, id, 1, 2)),
  fc.nat(5).map((id) => (shown: Shown) => changeClip(shown, id, { keeps: 'outside' })),
  fc.constant(toggleClips),
  fc.boolean().map((on) => (shown: Shown) => withMarks(shown, on)),
  fc.tuple(fc.constantFrom('Notes', 'Sizes'), fc.boolean()).map(
    ([layer, on]) =>
      (shown: Shown) =>
        withMarkLayers(shown, [layer], on),
  ),
  fc.constantFrom(worldPlane, tilted).map((plane) => (shown: Shown) => withWorkPlane(shown, plane)),
  fc.constantFrom(null, 'a', 'b').map((plan) => (shown: Shown) => withGroundPlan(shown, plan)),
);

describe('what is shown', () => {
  it('is the same value where an act changes nothing, and another one where it does', () => {
    fc.assert(
      fc.property(fc.array(acts, { maxLength: 12 }), acts, (before, act) => {
        const shown = before.reduce((now, one) => one(now), first);
        const next = act(shown);
        const found = differences(at(0, shown), at(0, next));
        // only the set of objects that are shown alone is made anew without a look at the one before
        if (next === shown) expect(found).toEqual([]);
        else if (next.hiddenObjects === shown.hiddenObjects) expect(found).not.toEqual([]);
        expect(sameView(at(0, shown), at(0, next))).toBe(found.length === 0);
      }),
    );
  });

  it('hides marks all at once and by their layer', () => {
    expect(isMarkShown(first, { layer: 'Notes' })).toBe(true);
    expect(isMarkShown(withMarks(first, false), { layer: 'Notes' })).toBe(false);
    expect(isMarkShown(withMarkLayers(first, ['Notes'], false), { layer: 'Notes' })).toBe(false);
    expect(isMarkShown(withMarkLayers(first, ['Notes'], false), { layer: 'Sizes' })).toBe(true);
  });

  it('numbers clips so that no two share a name, also after one was taken away', () => {
    const add = (shown: Shown): Shown => addClip(shown, { ...box, orientation: identityQuaternion });
    const names = (shown: Shown): string[] => shown.clips.map(({ name }) => name);
    expect(names(add(removeClip(add(add(first)), 1)))).toEqual(['Box 2', 'Box 3']);
    expect(names(add(add(add(add(add(first))))))).toHaveLength(4); // no more fit
  });
});

describe('a view', () => {
  it('is restored whole, or its place or looks alone', () => {
    const [now, kept] = [at(1, withLook(first, 'lines')), at(2, withLayers(first, [5], false))];
    expect(restore(now, kept, 'all')).toEqual(kept);
    expect(restore(now, kept, 'place')).toEqual({ camera: kept.camera, shown: now.shown });
    expect(restore(now, kept, 'looks')).toEqual({ camera: now.camera, shown: kept.shown });
  });

  it('tells what is different in another one', () => {
    const other = [
      (shown: Shown) => withLook(shown, 'lines'),
      (shown: Shown) => withKinds(shown, { texts: false }),
      (shown: Shown) => withLayers(withLayers(shown, [2], true), [3, 4], false),
      (shown: Shown) => hideObjects(shown, [1, 7], OBJECTS),
      (shown: Shown) => addClip(shown, { ...box, orientation: identityQuaternion }),
      (shown: Shown) => withMarks(shown, false),
      (shown: Shown) => withWorkPlane(shown, tilted, 'Deck'),
      (shown: Shown) => withGroundPlan(shown, 'plan'),
    ].reduce((shown, act) => act(shown), first);
    expect(differences(at(0), at(9, other))).toMatchObject([
      { part: 'place' },
      { part: 'look', look: 'lines' },
      { part: 'kinds', hidden: ['texts'], shown: [] },
      { part: 'layers', hidden: [3, 4], shown: [2] },
      { part: 'objects', hidden: 2, shown: 0 },
      { part: 'clips', added: [{ name: 'Box 1' }], removed: [], changed: [] },
      { part: 'marks', areShown: false },
      { part: 'plane', name: 'Deck' },
      { part: 'ground', groundPlan: 'plan' },
    ]);
    expect(differences(at(9, other), at(9, other))).toEqual([]);
  });
});
