import { Component, type ReactNode } from 'react';
import { Notice } from './notice';

interface PartBoundaryProps {
  /** What stops, as its users call it: “This pane”. */
  readonly name: string;
  /** What has to be done before it is tried again. */
  readonly onRetry?: () => void;
  readonly children: ReactNode;
}

/** An error boundary: if its children fail, it shows what happened and a retry button; the rest of the page works on. */
export class PartBoundary extends Component<PartBoundaryProps, { readonly error: Error | null }> {
  override state: { readonly error: Error | null } = { error: null };

  static getDerivedStateFromError(error: unknown): { readonly error: Error } {
    return { error: error instanceof Error ? error : new Error('it gave no reason') };
  }

  override render(): ReactNode {
    const { error } = this.state;
    const { name, children, onRetry } = this.props;
    if (error === null) return children;
    return (
      <Notice title={`${name} has stopped working`} isError>
        <p>{error.message}</p>
        <p className="muted">Nothing that is kept is lost, and everything else works on.</p>
        <p className="notice-ways">
          <button
            type="button"
            onClick={() => {
              onRetry?.();
              this.setState({ error: null });
            }}
          >
            Show it again
          </button>
        </p>
      </Notice>
    );
  }
}
