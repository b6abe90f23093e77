import type { ReactElement } from 'react';
import { Link, useAsyncError } from 'react-router';
import { TopBar } from '../bar/top-bar';
import { Notice } from '../controls/notice';
import { troubleOf } from '../store/drawings-store';
import { Waiting } from './waiting';

/** A page while what it shows is on its way. */
export function OpeningPage({ title }: { readonly title: string }): ReactElement {
  return (
    <>
      <TopBar />
      <Notice title={title} isPage>
        <Waiting />
      </Notice>
    </>
  );
}

/** A page that can't show what was asked for: says why. */
export function FailedPage(): ReactElement {
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
