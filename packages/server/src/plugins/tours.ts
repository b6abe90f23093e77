import type { FastifyInstance } from 'fastify';
import { ChangeTourDto, KeepTourDto, type TourDto } from '@gull-pane/protocol/tours';
import { tours } from '../db/schema.ts';
import type { Services } from './services.ts';
import { versionedRoutes } from './versioned-routes.ts';

/** Tours through the views of a drawing, with optimistic concurrency like the view cards'. */
export function tourRoutes(app: FastifyInstance, services: Services): void {
  versionedRoutes<TourDto>(app, services, {
    path: 'tours',
    table: tours,
    // many stops with captions
    bodyLimit: 512 * 1024,
    notFound: 'tour-not-found',
    keptAlready: 'A tour with this id is kept already.',
    keep: KeepTourDto,
    change: ChangeTourDto,
    changed: (tour) => ({ kind: 'tour', tour }),
    gone: (row) => ({ kind: 'tour-gone', ...row }),
  });
}
