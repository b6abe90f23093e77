import { Suspense, useEffect, type ReactElement } from 'react';
import { Await, Link, useAsyncError, useLoaderData, type LoaderFunctionArgs } from 'react-router';
import { api } from '../api/client';
import { TopBar } from '../bar/top-bar';
import { Notice } from '../controls/notice';
import { fetchContent } from '../session/fetch-content';
import { SheetsWork, type LoadedSheets } from '../sheets/sheets-work';
import { troubleOf } from '../store/drawings-store';
import { createSheetSetsStore } from '../store/sheet-sets-store';
import { Notes } from './later-parts';
import { Waiting } from './waiting';

interface Loading {
  readonly loaded: Promise<LoadedSheets>;
}

/** Begins to get a drawing with its view cards and its sets of sheets. */
export function loadSheets({ params: { drawingId = '' } }: LoaderFunctionArgs): Loading {
  const loaded = fetchSheets(drawingId);
  loaded.catch(() => undefined); // told by the page
  return { loaded };
}

/** Sheets of a plan, laid out for paper. */
export function SheetsPage(): ReactElement {
  const { loaded } = useLoaderData<Loading>();
  useEffect(() => {
    document.title = 'Sheets · Gull Pane';
  }, []);
  return (
    <div className="sheets-page">
      <Suspense fallback={<Opening />}>
        <Await resolve={loaded} errorElement={<Failure />}>
          {(sheets: LoadedSheets) => <SheetsWork loaded={sheets} />}
        </Await>
      </Suspense>
      <Notes />
    </div>
  );
}

function Opening(): ReactElement {
  return (
    <>
      <TopBar />
      <Notice title="Opening the sheets" isPage>
        <Waiting />
      </Notice>
    </>
  );
}

function Failure(): ReactElement {
  const { title, detail, hint } = troubleOf(useAsyncError());
  return (
    <>
      <TopBar />
      <Notice title={title} isError isPage>
        <p>{detail}</p>
        <p className="muted">{hint}</p>
        <Link to="/">All drawings</Link>
      </Notice>
    </>
  );
}

async function fetchSheets(drawingId: string): Promise<LoadedSheets> {
  const store = createSheetSetsStore(drawingId);
  const [content, cards] = await Promise.all([fetchContent(drawingId), api.cards(drawingId), store.getState().load()]);
  return { content, cards, store };
}
