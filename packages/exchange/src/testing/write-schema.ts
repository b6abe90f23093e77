/**
 * Writes docs/views.schema.json anew from the checks of the code.
 * usage: npm run write-schema
 */
import { writeFileSync } from 'node:fs';
import { viewsSchema } from './views-schema.ts';

writeFileSync('docs/views.schema.json', JSON.stringify(viewsSchema()));
