import type { ReactElement } from 'react';
import './nothing-yet.css';

/** What a list will hold, while there is nothing in it. */
export const NothingYet = ({ children }: { readonly children: string }): ReactElement => (
  <p className="nothing-yet">{children}</p>
);
