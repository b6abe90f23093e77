import { Suspense, type ReactElement } from 'react';
import { Await, useLoaderData, useLocation, type LoaderFunctionArgs } from 'react-router';
import { fetchContent } from '../session/fetch-content';
import { isApart } from '../session/apart-address';
import { keptLayout, withoutPanes } from '../session/arranged';
import type { Opening } from '../session/start-session';
import { FailedPage, OpeningPage } from './page-states';
import { Workspace } from './workspace';

interface Loading {
  readonly opening: Promise<Opening>;
}

/** Begins to get a drawing, and what else the panes showed when the page was left; the page says so meanwhile. */
export function loadDrawing({ params: { drawingId = '' } }: LoaderFunctionArgs): Loading {
  const opening = fetchOpening(drawingId);
  opening.catch(() => undefined); // told by the page
  return { opening };
}

/** Shows a drawing, or says why it can't be shown. */
export function DrawingPage(): ReactElement {
  const { opening } = useLoaderData<Loading>();
  const { key } = useLocation();
  return (
    <Suspense key={key} fallback={<OpeningPage title="Opening the drawing" />}>
      <Await resolve={opening} errorElement={<FailedPage />}>
        {(opened: Opening) => <Workspace opening={opened} />}
      </Await>
    </Suspense>
  );
}

async function fetchOpening(drawingId: string): Promise<Opening> {
  const search = new URLSearchParams(location.search);
  if (isApart(search)) {
    const { askForPane } = await import('../session/apart');
    const [first, apart] = await Promise.all([fetchContent(drawingId), askForPane(search)]);
    if (apart) return { first, contents: [first], layout: null, apart };
    // the window that it belonged to has gone: it is a window like any other now
    history.replaceState(history.state, '', `/d/${drawingId}`);
  }
  const layout = keptLayout();
  const others = new Set(layout?.panes.map((pane) => pane.drawingId).filter((id) => id !== drawingId));
  // a pane whose drawing has gone in the meantime is left out
  const [first, ...rest] = await Promise.all([
    fetchContent(drawingId),
    ...[...others].map((id) => fetchContent(id).catch(() => null)),
  ]);
  const contents = [first, ...rest.filter((content) => content !== null)];
  const there = new Set(contents.map(({ drawing }) => drawing.id));
  return { first, contents, layout: layout && withoutPanes(layout, (id) => there.has(id)), apart: null };
}
