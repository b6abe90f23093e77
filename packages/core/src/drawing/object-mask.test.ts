import fc from 'fast-check';
import { expect, it } from 'vitest';
import { ObjectMask } from './object-mask.ts';

it('hides what it is told, however often, and nothing that isn’t there', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 60 }),
      fc.array(fc.array(fc.integer({ min: -3, max: 70 }))),
      (objects, lists) => {
        const hidden = new Set<number>();
        let mask = ObjectMask.none(objects);
        for (const list of lists) {
          mask = mask.hiding(list);
          for (const object of list) if (object >= 0 && object < objects) hidden.add(object);
          const only = mask.showingOnly(list);
          for (let object = 0; object < objects; object++) {
            expect(mask.has(object)).toBe(hidden.has(object));
            expect(only.has(object)).toBe(!list.includes(object));
          }
          expect(mask.count).toBe(hidden.size);
          expect(only.count).toBe(objects - new Set(list.filter((object) => object >= 0 && object < objects)).size);
        }
      },
    ),
  );
});
