import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, type ReactElement, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/shallow';
import { dividersOf, panesOf, type Area } from '@gull-pane/core/panes/tiling';
import type { Session } from '../session/session';
import { shownAreas } from '../store/panes-store';
import type { ThumbnailMaker } from '../trail/thumbnail-maker';
import { FootDragMark } from './foot-drag';
import { useDropPlace } from '../controls/drag';
import { PartBoundary } from '../controls/part-boundary';
import { Pane } from './pane';
import { PaneDivider } from './pane-divider';
import './pane-grid.css';

interface PaneGridProps {
  readonly session: Session;
  readonly onMaker: (maker: ThumbnailMaker | null) => void;
}

/** All panes where their tiling has them. A pane that moves is the same element at another place: nothing is drawn anew. */
export function PaneGrid({ session, onMaker }: PaneGridProps): ReactElement {
  const { panes } = session;
  const frame = useRef<HTMLDivElement>(null);
  const { tiling, area, filled } = useStore(
    panes,
    useShallow(({ tiling: now, area: all, filled: whole }) => ({ tiling: now, area: all, filled: whole })),
  );
  const named = useStore(panes, (state) => state.named);
  useStore(panes, (state) => state.generation);
  const measure = useCallback(() => {
    const { clientWidth, clientHeight } = frame.current!;
    panes.getState().setArea(clientWidth, clientHeight);
  }, [panes]);
  useLayoutEffect(measure, [measure]);
  useEffect(() => {
    const observer = new ResizeObserver(measure);
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, [measure]);
  const areas = useMemo(() => shownAreas({ tiling, area, filled }), [tiling, area, filled]);
  const dividers = filled === null ? dividersOf(tiling, area) : [];
  // in the order of their names: React leaves elements that keep their order where they are
  const shown = panesOf(tiling).sort();
  return (
    <div ref={frame} className="pane-grid" data-many={shown.length > 1}>
      {shown.map((id) => {
        const own = areas.get(id);
        const isCovered = filled !== null && filled !== id;
        return (
          <PanePlace
            key={`${id} ${session.serialOf(id)}`}
            id={id}
            onDrawing={(drawing) => void session.openIn(id, drawing)}
            isNamed={named === id}
            // what is covered keeps its size, so that it comes back just as it was
            isCovered={isCovered}
            area={own}
          >
            <PartBoundary name="This pane">
              <Pane
                target={session.targetOf(id)}
                hands={session.handsOf(id)}
                open={session.openOf(id)}
                onMaker={onMaker}
              />
            </PartBoundary>
          </PanePlace>
        );
      })}
      {dividers.map((divider) => (
        <PaneDivider key={`${divider.path.join('.')}/${divider.index}`} panes={panes} divider={divider} />
      ))}
      <FootDragMark target={session.targetOf(shown[0]!)} />
    </div>
  );
}

interface PanePlaceProps {
  readonly id: string;
  readonly isNamed: boolean;
  readonly isCovered: boolean;
  readonly area: Area | undefined;
  /** A drawing was dropped on it. */
  readonly onDrawing: (id: string) => void;
  readonly children: ReactNode;
}

/** Where a pane lies. */
function PanePlace({ id, isNamed, isCovered, area, onDrawing, children }: PanePlaceProps): ReactElement {
  const { ref, isOver } = useDropPlace('drawing', (drawing) => onDrawing(drawing.id));
  return (
    <div
      ref={ref}
      className="pane-place"
      data-pane={id}
      data-named={isNamed || isOver}
      data-over={isOver}
      inert={isCovered}
      style={{
        ...(area ? { left: area.x, top: area.y, width: area.width, height: area.height } : {}),
        ...(isCovered ? { visibility: 'hidden' } : {}),
      }}
    >
      {children}
    </div>
  );
}
