import { Spin } from 'antd';
import { useEffect, useState, type ReactElement } from 'react';
import { Link, useParams } from 'react-router';
import { TopBar } from '../bar/top-bar';
import { api } from '../api/client';
import { troubleOf, type Trouble } from '../store/drawings-store';
import type { DrawingContent } from '../store/drawing-store';
import { Notice } from './notice';
import { Workspace } from './workspace';

type Loading =
  { readonly id: string; readonly content: DrawingContent } | { readonly id: string; readonly trouble: Trouble };

/** Gets a drawing and shows it, or says why it can't be shown. */
export function DrawingPage(): ReactElement {
  const { drawingId = '' } = useParams();
  const [loaded, setLoaded] = useState<Loading | null>(null);
  useEffect(() => {
    let isCurrent = true;
    fetchContent(drawingId).then(
      (content) => {
        if (isCurrent) setLoaded({ id: drawingId, content });
      },
      (error: unknown) => {
        if (isCurrent) setLoaded({ id: drawingId, trouble: troubleOf(error) });
      },
    );
    return () => {
      isCurrent = false;
    };
  }, [drawingId]);
  if (loaded?.id !== drawingId) {
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
  return <Workspace key={drawingId} content={loaded.content} />;
}

async function fetchContent(id: string): Promise<DrawingContent> {
  const drawing = api.drawing(id);
  const solid = drawing.then(({ kind, revision }) => (kind === 'solid' ? api.solid(id, revision) : null));
  const all = [drawing, api.layers(id), api.tileset(id), api.trail(id), solid] as const;
  const [dto, layers, tileset, trail, table] = await Promise.all(all);
  return { drawing: dto, layers, tileset, trail, solid: table };
}
