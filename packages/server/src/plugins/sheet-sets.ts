import type { FastifyInstance } from 'fastify';
import { ChangeSheetSetDto, KeepSheetSetDto, type SheetSetDto } from '@gull-pane/protocol/sheet-sets';
import { sheetSets } from '../db/schema.ts';
import type { Services } from './services.ts';
import { versionedRoutes } from './versioned-routes.ts';

/** Sheets of a drawing that are laid out for paper, with optimistic concurrency like the view cards'. */
export function sheetSetRoutes(app: FastifyInstance, services: Services): void {
  versionedRoutes<SheetSetDto>(app, services, {
    path: 'sheet-sets',
    table: sheetSets,
    // many sheets with their frames
    bodyLimit: 4 * 1024 * 1024,
    notFound: 'sheet-set-not-found',
    keptAlready: 'A set with this id is kept already.',
    keep: KeepSheetSetDto,
    change: ChangeSheetSetDto,
    changed: (set) => ({ kind: 'sheet-set', set }),
    gone: (row) => ({ kind: 'sheet-set-gone', ...row }),
  });
}
