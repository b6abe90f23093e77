/** Elements that go from the thread that reads to the one that builds. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { PathElement, PictureElement, TextElement } from '@gull-pane/core/drawing/model';
import { BatchWriter, giveBatch } from '../src/jobs/element-batches.ts';

type Given =
  | { readonly kind: 'path'; readonly element: PathElement }
  | { readonly kind: 'text'; readonly element: TextElement }
  | { readonly kind: 'picture'; readonly element: PictureElement }
  | { readonly kind: 'facts'; readonly values: readonly string[] };

const count = fc.integer({ min: 0, max: 5000 });
const path = fc.record(
  {
    layer: count,
    lineStyle: fc.integer({ min: -1, max: 5000 }),
    fillStyle: fc.integer({ min: -1, max: 5000 }),
    fillRule: fc.constantFrom('nonzero' as const, 'evenodd' as const),
    path: fc.record({
      ops: fc.array(fc.integer({ min: 0, max: 5 }), { maxLength: 20 }),
      coords: fc.array(fc.double(), { maxLength: 40 }),
    }),
    told: fc.string(),
  },
  { requiredKeys: ['layer', 'lineStyle', 'fillStyle', 'fillRule', 'path'] },
);
const mark = fc.record({
  text: fc.string(),
  x: fc.double(),
  y: fc.double(),
  size: fc.double(),
  angleRad: fc.double(),
  anchor: fc.constant('start' as const),
  weight: fc.constant('normal' as const),
});
const place = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };
const picture = count.map((layer): PictureElement => {
  return { layer, place, clip: null, opacity: 1, source: { kind: 'file', bytes: Uint8Array.of(layer & 255) } };
});
const given: fc.Arbitrary<Given> = fc.oneof(
  { weight: 8, arbitrary: path.map((element) => ({ kind: 'path' as const, element })) },
  fc.record({ layer: count, style: count, mark }).map((element) => ({ kind: 'text' as const, element })),
  picture.map((element) => ({ kind: 'picture' as const, element })),
  fc.array(fc.string(), { maxLength: 3 }).map((values) => ({ kind: 'facts' as const, values })),
);

it('elements come out of batches as they went in, in their order', () => {
  fc.assert(
    fc.property(fc.array(given, { maxLength: 60 }), fc.nat(60), (all, flushAt) => {
      const out: Given[] = [];
      const writer = new BatchWriter((batch) =>
        giveBatch(batch, {
          path: ({ path: { ops, coords }, ...element }) =>
            out.push({
              kind: 'path',
              element: { ...element, path: { ops: Array.from(ops), coords: Array.from(coords) } },
            }),
          text: (element) => out.push({ kind: 'text', element }),
          picture: (element) => out.push({ kind: 'picture', element }),
          facts: (values) => out.push({ kind: 'facts', values }),
        }),
      );
      for (const [at, one] of all.entries()) {
        if (at === flushAt) writer.flush();
        if (one.kind === 'path') writer.path(one.element);
        else if (one.kind === 'text') writer.text(one.element);
        else if (one.kind === 'picture') writer.picture(one.element);
        else writer.facts(one.values);
      }
      writer.flush();
      expect(out).toEqual(all);
    }),
  );
});
