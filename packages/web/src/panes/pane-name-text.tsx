import type { ReactElement, ReactNode } from 'react';
import type { PanesStore } from '../store/panes-store';

interface NamesPaneProps {
  readonly panes: PanesStore;
  readonly pane: string;
  readonly children: ReactNode;
}

/** Something that names a pane: the pane is lit while it is pointed at or has the focus. */
export function NamesPane({ panes, pane, children }: NamesPaneProps): ReactElement {
  const light = (): void => panes.getState().setNamed(pane);
  const dim = (): void => {
    if (panes.getState().named === pane) panes.getState().setNamed(null);
  };
  return (
    <span className="names-pane" onPointerEnter={light} onPointerLeave={dim} onFocus={light} onBlur={dim} onClick={dim}>
      {children}
    </span>
  );
}
