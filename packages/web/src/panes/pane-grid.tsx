import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/shallow';
import { dividersOf, panesOf } from '@gull-pane/core/panes/tiling';
import type { Session } from '../session/session';
import { shownAreas } from '../store/panes-store';
import type { ThumbnailMaker } from '../trail/thumbnail-maker';
import { FootDragMark } from './foot-drag';
import { DRAGGED_DRAWING } from '../bar/drawing-switcher';
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
          <div
            key={`${id} ${session.serialOf(id)}`}
            className="pane-place"
            data-pane={id}
            data-named={named === id}
            onDragOver={(event) => {
              if (event.dataTransfer.types.includes(DRAGGED_DRAWING)) event.preventDefault();
            }}
            onDrop={(event) => {
              const drawing = event.dataTransfer.getData(DRAGGED_DRAWING);
              if (drawing === '') return;
              event.preventDefault();
              void session.openIn(id, drawing);
            }}
            // what is covered keeps its size, so that it comes back just as it was
            inert={isCovered}
            style={{
              ...(own ? { left: own.x, top: own.y, width: own.width, height: own.height } : {}),
              ...(isCovered ? { visibility: 'hidden' } : {}),
            }}
          >
            <PartBoundary name="This pane">
              <Pane
                target={session.targetOf(id)}
                hands={session.handsOf(id)}
                open={session.openOf(id)}
                onMaker={onMaker}
              />
            </PartBoundary>
          </div>
        );
      })}
      {dividers.map((divider) => (
        <PaneDivider key={`${divider.path.join('.')}/${divider.index}`} panes={panes} divider={divider} />
      ))}
      <FootDragMark target={session.targetOf(shown[0]!)} />
    </div>
  );
}
