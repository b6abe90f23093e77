import type { ReactElement, ReactNode } from 'react';
import './notice.css';

interface NoticeProps {
  readonly title: string;
  readonly children?: ReactNode;
  readonly isError?: boolean;
  /** Whether it is all that the page has to say. */
  readonly isPage?: boolean;
}

/** A message in the middle of an otherwise empty area. */
export function Notice({ title, children, isError = false, isPage = false }: NoticeProps): ReactElement {
  const Title = isPage ? 'h1' : 'h2';
  const notice = (
    <div className="notice" role={isError ? 'alert' : 'status'}>
      <Title>{title}</Title>
      {children}
    </div>
  );
  return isPage ? <main className="notice-page">{notice}</main> : notice;
}
