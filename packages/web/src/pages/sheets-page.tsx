import { Suspense, useEffect, type ReactElement } from 'react';
import { Await, useLoaderData, type LoaderFunctionArgs } from 'react-router';
import { api } from '../api/client';
import { fetchContent } from '../session/fetch-content';
import { SheetsWork, type LoadedSheets } from '../sheets/sheets-work';
import { createSheetSetsStore } from '../store/sheet-sets-store';
import { Notes } from './later-parts';
import { FailedPage, OpeningPage } from './page-states';

interface Loading {
  readonly loaded: Promise<LoadedSheets>;
}

/** Begins to get a drawing with its view cards and its sets of sheets. */
export function loadSheets({ params: { drawingId = '' } }: LoaderFunctionArgs): Loading {
  const loaded = fetchSheets(drawingId);
  loaded.catch(() => undefined); // told by the page
  return { loaded };
}

/** Sheets of a drawing, laid out for paper. */
export function SheetsPage(): ReactElement {
  const { loaded } = useLoaderData<Loading>();
  useEffect(() => {
    document.title = 'Sheets · Gull Pane';
  }, []);
  return (
    <div className="sheets-page">
      <Suspense fallback={<OpeningPage title="Opening the sheets" />}>
        <Await resolve={loaded} errorElement={<FailedPage />}>
          {(sheets: LoadedSheets) => <SheetsWork loaded={sheets} />}
        </Await>
      </Suspense>
      <Notes />
    </div>
  );
}

async function fetchSheets(drawingId: string): Promise<LoadedSheets> {
  const store = createSheetSetsStore(drawingId);
  const [content, cards, revisions, marks] = await Promise.all([
    fetchContent(drawingId),
    api.cards(drawingId),
    api.revisions(drawingId),
    api.marks(drawingId),
    store.getState().load(),
  ]);
  return { content, cards, revisions, marks, store };
}
