import { useEffect, useState, type ReactElement } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import { api } from '../api/client';
import { TopBar } from '../bar/top-bar';
import { LinkError, readLink } from '../session/link';
import { openingOf } from '../session/open-link';
import type { Opening } from '../session/start-session';
import { troubleOf } from '../store/drawings-store';
import { Notice } from '../controls/notice';
import { Waiting } from './waiting';
import { Workspace } from './workspace';

interface Failure {
  readonly title: string;
  readonly detail: string;
}
type Loaded = { readonly of: string } & ({ readonly opening: Opening } | { readonly failure: Failure });

/** Opens what a link tells, short or long, or says why it can't. */
export function LinkPage(): ReactElement {
  const { linkId } = useParams();
  const { hash, key } = useLocation();
  const [loaded, setLoaded] = useState<Loaded>();
  const link = linkId ?? hash.slice(1);
  const of = `${key} ${link}`;
  useEffect(() => {
    let isCurrent = true;
    const take = (next: Loaded): void => {
      if (isCurrent) setLoaded(next);
    };
    const linked = linkId === undefined ? readLink(link) : api.link(linkId);
    linked.then(openingOf).then(
      (opening) => take({ of, opening }),
      (error: unknown) => take({ of, failure: failureOf(error) }),
    );
    return () => {
      isCurrent = false;
    };
  }, [linkId, link, of]);
  if (loaded?.of === of && 'opening' in loaded) return <Workspace key={of} opening={loaded.opening} />;
  return (
    <>
      <TopBar />
      {loaded?.of === of && 'failure' in loaded ? (
        <Notice title={loaded.failure.title} isError isPage>
          <p>{loaded.failure.detail}</p>
          <Link to="/">All drawings</Link>
        </Notice>
      ) : (
        <Notice title="Opening the link" isPage>
          <Waiting />
        </Notice>
      )}
    </>
  );
}

function failureOf(error: unknown): Failure {
  if (error instanceof LinkError) return { title: 'This link can’t be opened', detail: error.message };
  const { title, hint } = troubleOf(error);
  return { title, detail: hint };
}
