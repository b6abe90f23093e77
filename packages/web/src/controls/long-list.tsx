import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactElement, type ReactNode } from 'react';
import './long-list.css';

interface LongListProps<Row> {
  readonly label: string;
  readonly rows: readonly Row[];
  readonly keyOf: (row: Row) => string | number;
  /** How high a row is before it was measured, CSS px. */
  readonly guessPx: (row: Row) => number;
  readonly children: (row: Row) => ReactNode;
  readonly className?: string;
  /** Whether rows say themselves that they are items of the list. */
  readonly haveOwnRoles?: boolean;
  /** Place of a row that is brought into sight when it becomes another; −1 for none. */
  readonly inSight?: number;
  /** Told which rows are in sight, the second not included. */
  readonly onSeen?: (from: number, to: number) => void;
}

/** A list that may have thousands of rows: only those in sight are there. */
export function LongList<Row>(props: LongListProps<Row>): ReactElement {
  const { label, rows, keyOf, guessPx, children, className = '', haveOwnRoles = false, inSight = -1, onSeen } = props;
  const frame = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the hook re-renders on scroll; the compiler must not memoize its result
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => frame.current,
    estimateSize: (index) => guessPx(rows[index]!),
    getItemKey: (index) => keyOf(rows[index]!),
    overscan: 4,
  });
  const seen = list.getVirtualItems();
  const [from, to] = [seen[0]?.index ?? 0, (seen.at(-1)?.index ?? -1) + 1];
  useEffect(() => onSeen?.(from, to), [onSeen, from, to]);
  useEffect(() => {
    if (inSight >= 0) list.scrollToIndex(inSight);
  }, [list, inSight]);
  return (
    <div ref={frame} className={`long-list ${className}`} role="list" aria-label={label} tabIndex={-1}>
      <div style={{ height: list.getTotalSize(), position: 'relative' }} role="presentation">
        {seen.map(({ index, key, start }) => (
          <div
            key={key}
            ref={list.measureElement}
            data-index={index}
            className="long-list-place"
            {...(haveOwnRoles
              ? { role: 'presentation' }
              : { role: 'listitem', 'aria-setsize': rows.length, 'aria-posinset': index + 1 })}
            style={{ transform: `translateY(${start}px)` }}
          >
            {children(rows[index]!)}
          </div>
        ))}
      </div>
    </div>
  );
}
