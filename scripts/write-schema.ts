/**
 * Writes docs/views.schema.json anew from the checks of the code.
 * usage: npm run write-schema
 */
import { writeFileSync } from 'node:fs';
import { format } from 'prettier';
import { viewsSchema } from '../packages/exchange/src/testing/views-schema.ts';

writeFileSync(
  'docs/views.schema.json',
  await format(JSON.stringify(viewsSchema()), { parser: 'json', printWidth: 120 }),
);
