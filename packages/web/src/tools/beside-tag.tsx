import { useLayoutEffect, useRef, type ReactElement, type ReactNode } from 'react';
import type { Viewport } from '@gull-pane/core/camera/camera';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { besideAt } from './park';

/** Between a place and a tag beside it, CSS px. */
export const BESIDE_PX = 18;

interface BesideTagProps {
  /** The place that it is about, CSS px of the pane. */
  readonly at: Vec2;
  readonly viewport: Viewport;
  readonly label: string;
  readonly className?: string;
  readonly children: ReactNode;
}

/** A tag beside the cursor, wholly within the pane. */
export function BesideTag({ at, viewport, label, className = '', children }: BesideTagProps): ReactElement {
  const tag = useRef<HTMLDivElement>(null);
  // its size is known only when it stands there
  useLayoutEffect(() => {
    const own = tag.current!;
    const { left, top } = besideAt(viewport, own.getBoundingClientRect(), at, BESIDE_PX);
    Object.assign(own.style, { left: `${left}px`, top: `${top}px` });
  });
  return (
    <div ref={tag} className={`tool-tag ${className}`} role="status" aria-label={label}>
      {children}
    </div>
  );
}
