import { useEffect, useState, type ReactElement } from 'react';
import { Link, useAsyncError } from 'react-router';
import { TopBar } from '../bar/top-bar';
import { Notice } from '../controls/notice';
import { troubleOf } from '../store/drawings-store';
import { Waiting } from './waiting';

interface OpeningProps {
  readonly title: string;
  /** Comes once it turns out that a drawing is still being imported. */
  readonly importing?: Promise<void>;
}

/** A page while what it shows is on its way. */
export function OpeningPage({ title, importing }: OpeningProps): ReactElement {
  const [isImporting, setImporting] = useState(false);
  useEffect(() => {
    let isHere = true;
    void importing?.then(() => isHere && setImporting(true));
    return () => {
      isHere = false;
    };
  }, [importing]);
  return (
    <>
      <TopBar />
      <Notice title={title} isPage>
        {isImporting && <p>It is still being imported and opens as soon as it is ready.</p>}
        <Waiting />
        {isImporting && <Link to="/">All drawings</Link>}
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
