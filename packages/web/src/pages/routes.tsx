import type { ReactElement } from 'react';
import type { RouteObject } from 'react-router';
import { Notice } from '../controls/notice';
import { Waiting } from './waiting';
import { PageTrouble } from './page-trouble';

/** While the code of the first page is on its way. */
function Arriving(): ReactElement {
  return (
    <Notice title="Opening" isPage>
      <Waiting />
    </Notice>
  );
}

/** The pages by address. Each loads its code on navigation; an error in one is shown in its place. */
export const routes: RouteObject[] = [
  {
    HydrateFallback: Arriving,
    // here and not at the pages: a page whose code didn't come has no boundary of its own
    ErrorBoundary: PageTrouble,
    children: [
      {
        path: '/',
        lazy: async () => {
          const { DrawingsPage, loadDrawings } = await import('./drawings-page');
          return { Component: DrawingsPage, loader: loadDrawings };
        },
      },
      {
        path: '/d/:drawingId',
        lazy: async () => {
          const { DrawingPage, loadDrawing } = await import('./drawing-page');
          return { Component: DrawingPage, loader: loadDrawing };
        },
      },
      {
        path: '/d/:drawingId/sheets',
        lazy: async () => {
          const { SheetsPage, loadSheets } = await import('./sheets-page');
          return { Component: SheetsPage, loader: loadSheets };
        },
      },
      {
        path: '/v/:linkId?',
        lazy: async () => ({ Component: (await import('./link-page')).LinkPage }),
      },
      { path: '*', lazy: async () => ({ Component: (await import('./nothing-here')).NothingHere }) },
    ],
  },
];
