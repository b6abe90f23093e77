import { api } from '../api/client';
import { loadSolidParts } from './solid-parts';
import { loadSolidPainter } from '../render/painters';
import type { DrawingContent } from '../store/drawing-store';

/** Gets everything of a drawing that is needed before it can be shown. @throws ApiError */
export async function fetchContent(id: string): Promise<DrawingContent> {
  const drawing = api.drawing(id);
  const solid = drawing.then(async ({ kind, revision }) => {
    if (kind !== 'solid') return null;
    const [table] = await Promise.all([api.solid(id, revision), loadSolidPainter(), loadSolidParts()]);
    return table;
  });
  const all = [drawing, api.layers(id), api.tileset(id), api.trail(id), solid] as const;
  const [dto, layers, tileset, trail, table] = await Promise.all(all);
  return { drawing: dto, layers, tileset, trail, solid: table };
}
