import { Spin } from 'antd';
import { useEffect, useState, type ReactElement } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import { TopBar } from '../bar/top-bar';
import { fetchContent } from '../session/fetch-content';
import { askForPane, isApart } from '../session/apart';
import { keptLayout, withoutPanes } from '../session/arranged';
import type { Opening } from '../session/start-session';
import { troubleOf, type Trouble } from '../store/drawings-store';
import { Notice } from './notice';
import { Workspace } from './workspace';

type Loading =
  { readonly key: string; readonly opening: Opening } | { readonly key: string; readonly trouble: Trouble };

/** Gets a drawing, and what else the panes showed when the page was left, and shows it, or says why it can't be shown. */
export function DrawingPage(): ReactElement {
  const { drawingId = '' } = useParams();
  const { key: visit } = useLocation();
  const key = `${drawingId} ${visit}`;
  const [loaded, setLoaded] = useState<Loading | null>(null);
  useEffect(() => {
    let isCurrent = true;
    fetchOpening(drawingId).then(
      (opening) => {
        if (isCurrent) setLoaded({ key, opening });
      },
      (error: unknown) => {
        if (isCurrent) setLoaded({ key, trouble: troubleOf(error) });
      },
    );
    return () => {
      isCurrent = false;
    };
  }, [drawingId, key]);
  if (loaded?.key !== key) {
    return (
      <>
        <TopBar />
        <Notice title="Opening the drawing" isPage>
          <Spin />
        </Notice>
      </>
    );
  }
  if ('trouble' in loaded) {
    const { title, detail, hint } = loaded.trouble;
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
  return <Workspace key={key} opening={loaded.opening} />;
}

async function fetchOpening(drawingId: string): Promise<Opening> {
  const search = new URLSearchParams(location.search);
  if (isApart(search)) {
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
