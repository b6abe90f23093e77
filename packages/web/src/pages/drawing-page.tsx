import { Suspense, type ReactElement } from 'react';
import { Await, useLoaderData, useLocation, type LoaderFunctionArgs } from 'react-router';
import { api, ApiError } from '../api/client';
import { fetchContent } from '../session/fetch-content';
import { isApart } from '../session/apart-address';
import { keptLayout, withoutPanes } from '../session/arranged';
import type { Opening } from '../session/start-session';
import type { DrawingContent } from '../store/drawing-store';
import { FailedPage, OpeningPage } from './page-states';
import { Workspace } from './workspace';

interface Loading {
  readonly opening: Promise<Opening>;
  /** Comes once it turns out that the drawing is still being imported. */
  readonly importing: Promise<void>;
}

/** Begins to get a drawing, and what else the panes showed when the page was left; the page says so meanwhile. */
export function loadDrawing({ params: { drawingId = '' } }: LoaderFunctionArgs): Loading {
  let tellImporting = (): void => undefined;
  const importing = new Promise<void>((tell) => (tellImporting = tell));
  const opening = fetchOpening(drawingId, tellImporting);
  opening.catch(() => undefined); // told by the page
  return { opening, importing };
}

/** Shows a drawing, or says why it can't be shown. */
export function DrawingPage(): ReactElement {
  const { opening, importing } = useLoaderData<Loading>();
  const { key } = useLocation();
  return (
    <Suspense key={key} fallback={<OpeningPage title="Opening the drawing" importing={importing} />}>
      <Await resolve={opening} errorElement={<FailedPage />}>
        {(opened: Opening) => <Workspace opening={opened} />}
      </Await>
    </Suspense>
  );
}

async function fetchOpening(drawingId: string, onImporting: () => void): Promise<Opening> {
  const search = new URLSearchParams(location.search);
  if (isApart(search)) {
    const { askForPane } = await import('../session/apart');
    const [first, apart] = await Promise.all([fetchImported(drawingId, onImporting), askForPane(search)]);
    if (apart) return { first, contents: [first], layout: null, apart };
    // the window that it belonged to has gone: it is a window like any other now
    history.replaceState(history.state, '', `/d/${drawingId}`);
  }
  const layout = keptLayout();
  const others = new Set(layout?.panes.map((pane) => pane.drawingId).filter((id) => id !== drawingId));
  // a pane whose drawing has gone in the meantime is left out
  const [first, ...rest] = await Promise.all([
    fetchImported(drawingId, onImporting),
    ...[...others].map((id) => fetchContent(id).catch(() => null)),
  ]);
  const contents = [first, ...rest.filter((content) => content !== null)];
  const there = new Set(contents.map(({ drawing }) => drawing.id));
  return { first, contents, layout: layout && withoutPanes(layout, (id) => there.has(id)), apart: null };
}

const ASKED_AGAIN_MS = 1000;
const CONFLICT = 409;

/** Fetches a drawing. If it is still being imported, waits until it is ready or its page is left. */
async function fetchImported(drawingId: string, onImporting: () => void): Promise<DrawingContent> {
  const page = location.pathname;
  for (;;) {
    try {
      return await fetchContent(drawingId);
    } catch (error) {
      if (!(error instanceof ApiError) || error.status !== CONFLICT) throw error;
      for (let isThere = false; !isThere;) {
        const { revision, jobId } = await api.drawing(drawingId);
        isThere = revision > 0;
        if (!isThere && (jobId === null || location.pathname !== page)) throw error;
        onImporting();
        if (!isThere) await new Promise((resolve) => setTimeout(resolve, ASKED_AGAIN_MS));
      }
    }
  }
}
