import type { ReactElement, ReactNode } from 'react';
import { Link } from 'react-router';
import { ThemeButtons } from './theme-button';
import './top-bar.css';

/** The bar along the top of every page: mark, what the page adds, themes. */
export function TopBar({ children }: { readonly children?: ReactNode }): ReactElement {
  return (
    <header className="top-bar">
      <Link to="/" className="mark" aria-label="Gull Pane, all drawings">
        <img src="/gull-pane.svg" alt="" width={26} height={26} />
        <span>Gull Pane</span>
      </Link>
      <div className="top-bar-middle">{children}</div>
      <ThemeButtons />
    </header>
  );
}
