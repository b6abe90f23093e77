import type { ReactElement, ReactNode } from 'react';
import './notice.css';

interface NoticeProps {
  readonly title: string;
  readonly children?: ReactNode;
  readonly isError?: boolean;
}

/** Says in the middle of an otherwise empty place what there is to know, and what to do. */
export function Notice({ title, children, isError = false }: NoticeProps): ReactElement {
  return (
    <div className="notice" role={isError ? 'alert' : 'status'}>
      <h2>{title}</h2>
      {children}
    </div>
  );
}
