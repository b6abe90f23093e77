import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { strFromU8 } from 'fflate';
import { expect, it } from 'vitest';
import { writeJsonViews } from './json-views.ts';
import { anyViews, hall } from './testing/sample-views.ts';
import { viewsSchema } from './testing/views-schema.ts';

const published = JSON.parse(readFileSync('docs/views.schema.json', 'utf8')) as object;
const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(published);

it('the published schema is that of the code', () => {
  expect(published).toEqual(JSON.parse(JSON.stringify(viewsSchema())));
});

it('every file of views that is written is valid by the published schema', () => {
  fc.assert(
    fc.property(anyViews, (views) => {
      const file: unknown = JSON.parse(strFromU8(writeJsonViews(views, hall).bytes));
      expect(validate(file) ? [] : validate.errors).toEqual([]);
    }),
    { numRuns: 30 },
  );
});

it('a file with a mistake isn’t', () => {
  const [view] = fc.sample(anyViews, { numRuns: 1, seed: 1 })[0]!;
  const file = JSON.parse(strFromU8(writeJsonViews([view!], hall).bytes)) as { views: { widthPx: unknown }[] };
  file.views[0]!.widthPx = 'wide';
  expect(validate(file)).toBe(false);
});
