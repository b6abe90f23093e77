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

/** Operations by what they are about. */
export const operationGroups: readonly { readonly name: string; readonly operations: readonly Operation[] }[] = [
  { name: 'Drawings', operations: drawingsOperations },
  { name: 'Imports', operations: importsOperations },
  { name: 'Tiles', operations: tilesOperations },
  { name: 'Views, tours, arrangements, links', operations: viewsOperations },
  { name: 'Marks', operations: marksOperations },
  { name: 'Sheets for paper', operations: paperOperations },
  { name: 'Revisions, changes, what was seen', operations: revisionsOperations },
  { name: 'Exports, packages, backups', operations: exchangeOperations },
  { name: 'Session', operations: sessionOperations },
  { name: 'Watching', operations: watchingOperations },
];

/** Every route of the server; a test holds it against the routes that there are. */
export const operations: readonly Operation[] = operationGroups.flatMap((group) => group.operations);
