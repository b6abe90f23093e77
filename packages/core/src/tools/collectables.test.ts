import { describe, expect, it } from 'vitest';
import { markWays } from '../marks/build.ts';
import { usualStyle } from '../marks/mark.ts';
import { strokesOf } from '../marks/strokes.ts';
import { measureKinds } from '../measure/measure-kinds.ts';
import type { Placed } from '../measure/placed.ts';
import { worldPlane } from '../plane/work-plane.ts';
import { collectableOf, collectables } from './collectables.ts';

/** Places on no line, in no plane with the others, with a face each. */
const places: readonly Placed[] = [
  [0, 0, 0],
  [40, 10, 0],
  [15, 30, 12],
  [5, 25, -3],
  [1, 2, 3],
].map(([x, y, z]) => ({ x: x!, y: y!, z: z!, normal: { x: 0, y: 0, z: 1 } }));

describe('what collects points', () => {
  it('has a name, an own id, and says what it expects for each of its points', () => {
    expect(new Set(collectables.map(({ id }) => id)).size).toBe(collectables.length);
    for (const { name, sentence, expects, least, most } of collectables) {
      expect(name).toMatch(/^[A-Z]/);
      expect(sentence).toMatch(/\.$/);
      expect(expects.length).toBe(most === Infinity ? 2 : most);
      expect(least).toBeLessThanOrEqual(most);
      // they stand in the sentence “click …”
      for (const expected of expects) expect(expected).toMatch(/^[a-z]/);
    }
    expect(() => collectableOf('mark-star')).toThrow(RangeError);
  });

  it('hands over just its points, but for measurements, which stay', () => {
    for (const { tool, most, least, group } of collectables) {
      let state = tool.initial;
      const handed: number[] = [];
      const count = most === Infinity ? least : most;
      for (let k = 0; k < count; k++) {
        const step = tool.add(state, places[k]!);
        ({ state } = step);
        for (const intent of step.intents) if (intent.kind === 'collected') handed.push(intent.points.length);
      }
      if (most < Infinity) {
        expect(handed).toEqual(group === 'measure' ? [] : [most]);
        expect(state.isDone).toBe(group === 'measure');
      }
    }
  });

  it('makes something of its points: every mark has lines or a place, every measurement a figure', () => {
    for (const way of markWays) {
      const count = way.most === Infinity ? 4 : way.most;
      const shape = way.make(places.slice(0, count), worldPlane);
      expect(shape, way.id).not.toBeNull();
      const rings = shape!.kind === 'hatch' ? { rings: [[0, 0, 5, 0, 5, 5]] } : {};
      const strokes = strokesOf({ ...usualStyle, ...shape!, ...rings, id: 'm' });
      if (shape!.kind !== 'point') expect(strokes.length, way.id).toBeGreaterThan(0);
      expect(way.make(places.slice(0, way.least - 1), worldPlane), way.id).toBeNull();
    }
    for (const kind of measureKinds) {
      const figures = kind.figures(places.slice(0, kind.most === Infinity ? 4 : kind.most))!;
      expect(figures.length, kind.id).toBeGreaterThan(1);
      for (const { value } of figures) expect(Number.isFinite(value)).toBe(true);
      expect(kind.figures([]), kind.id).toBeNull();
    }
  });
});
