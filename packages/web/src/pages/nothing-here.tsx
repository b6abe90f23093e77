import type { ReactElement } from 'react';
import { Link } from 'react-router';
import { TopBar } from '../bar/top-bar';
import { Notice } from '../controls/notice';

export function NothingHere(): ReactElement {
  return (
    <>
      <TopBar />
      <Notice title="There is nothing at this address" isError isPage>
        <p>Check the address, or go to the list of drawings.</p>
        <Link to="/">All drawings</Link>
      </Notice>
    </>
  );
}
