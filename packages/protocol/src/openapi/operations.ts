import { drawingsOperations } from './drawings.ts';
import { exchangeOperations } from './exchange.ts';
import { importsOperations } from './imports.ts';
import { marksOperations } from './marks.ts';
import { paperOperations } from './paper.ts';
import { revisionsOperations } from './revisions.ts';
import { sessionOperations } from './session.ts';
import { tilesOperations } from './tiles.ts';
import { viewsOperations } from './views.ts';
import { watchingOperations } from './watching.ts';
import type { Operation } from './operation.ts';

/** Every route of the server; a test holds it against the routes that there are. */
export const operations: readonly Operation[] = [
  ...watchingOperations,
  ...sessionOperations,
  ...drawingsOperations,
  ...importsOperations,
  ...tilesOperations,
  ...viewsOperations,
  ...marksOperations,
  ...paperOperations,
  ...revisionsOperations,
  ...exchangeOperations,
];
