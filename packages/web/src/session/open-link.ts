import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { LinkedDrawingDto, LinkedDto } from '@gull-pane/protocol/links';
import { api } from '../api/client';
import { useNotes } from '../store/notes-store';
import { withoutPanes } from './arranged';
import { fetchContent } from './fetch-content';
import { LinkError } from './link';
import type { Opening } from './start-session';

/** The drawing that a link means: by its id or, on another server, the one that is like it in name, kind and size. */
export function meantBy(linked: LinkedDrawingDto, all: readonly DrawingDto[]): DrawingDto | undefined {
  const { id, name, kind, objects } = linked;
  const there = all.filter(({ revision }) => revision > 0);
  const isLike = (drawing: DrawingDto): boolean =>
    drawing.name === name && drawing.kind === kind && drawing.counts.objects === objects;
  return there.find((drawing) => drawing.id === id) ?? there.find(isLike);
}

/**
 * Gets everything that a link opens. What has changed since it was made, or is missing here, is told.
 * @throws LinkError if none of its drawings is here, ApiError if the server can't be reached
 */
export async function openingOf({ arranged, drawings }: LinkedDto): Promise<Opening> {
  const all = await api.drawings();
  const meant = new Map(drawings.map((linked) => [linked.id, meantBy(linked, all)]));
  const here = {
    ...arranged,
    panes: arranged.panes.map((pane) => ({ ...pane, drawingId: meant.get(pane.drawingId)?.id ?? pane.drawingId })),
  };
  const known = new Set([...meant.values()].flatMap((drawing) => (drawing ? [drawing.id] : [])));
  const layout = withoutPanes(here, (id) => known.has(id));
  const missing = drawings.filter(({ id }) => !meant.get(id)).map(({ name }) => `“${name}”`);
  if (!layout) {
    const which = missing.length === 0 ? 'Its drawing' : missing.join(' and ');
    throw new LinkError(`${which} isn’t on this server: import it here, or open the link where it was made.`);
  }
  const { tell } = useNotes.getState();
  if (missing.length > 0)
    tell('failed', `${missing.join(' and ')} of the link isn’t on this server; the rest is shown.`);
  const contents = await Promise.all([...new Set(layout.panes.map((pane) => pane.drawingId))].map(fetchContent));
  for (const { drawing } of contents) {
    const isOther = layout.panes.some(
      ({ drawingId, shows }) => drawingId === drawing.id && shows.revision !== drawing.revision,
    );
    if (isOther)
      tell('done', `“${drawing.name}” has come in anew since the link was made: objects hidden then are shown.`);
  }
  const first = contents.find(({ drawing }) => drawing.id === layout.panes[0]!.drawingId)!;
  return { first, contents, layout, apart: null };
}
