import { isFormer } from '@gull-pane/protocol/drawings';
import type { TrailDto } from '@gull-pane/protocol/trail';
import { api } from '../api/client';
import { loadSolidParts } from './solid-parts';
import { loadSolidPainter } from '../render/painters';
import type { DrawingContent } from '../store/drawing-store';

const noTrail: TrailDto = { views: [], current: 0 };

/**
 * Gets everything of a drawing that is needed before it can be shown.
 * @param id of the drawing, or the address of a former revision of it
 * @throws ApiError
 */
export async function fetchContent(id: string): Promise<DrawingContent> {
  const drawing = api.drawing(id);
  const solid = drawing.then(async ({ kind, revision }) => {
    if (kind !== 'solid') return null;
    const [table] = await Promise.all([api.solid(id, revision), loadSolidPainter(), loadSolidParts()]);
    return table;
  });
  // a former revision keeps no trail: that of the drawing is about its present content
  const trailed = isFormer(id) ? Promise.resolve(noTrail) : api.trail(id);
  const all = [drawing, api.layers(id), api.tileset(id), trailed, solid] as const;
  const [dto, layers, tileset, trail, table] = await Promise.all(all);
  return { drawing: dto, layers, tileset, trail, solid: table };
}
