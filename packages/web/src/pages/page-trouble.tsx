import type { ReactElement } from 'react';
import { Link, useRouteError } from 'react-router';
import { TopBar } from '../bar/top-bar';
import { Notice } from '../controls/notice';

/** In place of a page that broke: what happened, and the ways back. Nothing that is kept is touched. */
export function PageTrouble(): ReactElement {
  const error = useRouteError();
  const message = error instanceof Error ? error.message : String(error);
  return (
    <>
      <TopBar />
      <Notice title="This page has stopped working" isError isPage>
        <p>{message}</p>
        <p className="muted">Your drawings and views are kept. Open the page again, or go to the list of drawings.</p>
        <p className="notice-ways">
          <button type="button" onClick={() => location.reload()}>
            Open it again
          </button>
          <Link to="/" reloadDocument>
            All drawings
          </Link>
        </p>
      </Notice>
    </>
  );
}
