import { useEffect, useRef, type MouseEvent, type PointerEvent, type ReactElement } from 'react';
import { createPortal } from 'react-dom';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { shownAreas } from '../store/panes-store';

/** A hand that moves less still clicks, CSS px. */
const DRAG_PX = 6;

interface FootHandlers {
  readonly onPointerDown: (event: PointerEvent<HTMLElement>) => void;
  readonly onPointerMove: (event: PointerEvent<HTMLElement>) => void;
  readonly onPointerUp: (event: PointerEvent<HTMLElement>) => void;
  readonly onPointerCancel: () => void;
}

/** Whether a hand is on the foot itself: not on one of its buttons, nor on what one of them has opened. */
export function isOnFoot({ target, currentTarget }: MouseEvent<HTMLElement>): boolean {
  return target instanceof Element && currentTarget.contains(target) && target.closest('button, input, a') === null;
}

/** What dragging a foot does: onto another pane the two change places, with Ctrl the view is copied there. */
export function useFootDrag({ ui, panes, pane }: Parts<'pane' | 'panes' | 'ui'>): FootHandlers {
  const start = useRef<{ readonly x: number; readonly y: number } | null>(null);
  useEffect(() => {
    // the key may come and go while the hand rests
    const tell = ({ key, type }: KeyboardEvent): void => {
      const { footDrag } = ui.getState();
      if (footDrag && key === 'Control') ui.getState().set({ footDrag: { ...footDrag, copies: type === 'keydown' } });
      if (footDrag && key === 'Escape') end();
    };
    const end = (): void => {
      start.current = null;
      ui.getState().set({ footDrag: null });
    };
    window.addEventListener('keydown', tell);
    window.addEventListener('keyup', tell);
    return () => {
      window.removeEventListener('keydown', tell);
      window.removeEventListener('keyup', tell);
    };
  }, [ui]);
  const end = (): void => {
    start.current = null;
    if (ui.getState().footDrag) ui.getState().set({ footDrag: null });
  };
  return {
    onPointerDown(event) {
      if (event.button !== 0 || !isOnFoot(event)) return;
      start.current = { x: event.clientX, y: event.clientY };
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove(event) {
      const from = start.current;
      const { clientX: x, clientY: y, ctrlKey: copies } = event;
      if (!from || (!ui.getState().footDrag && Math.hypot(x - from.x, y - from.y) < DRAG_PX)) return;
      const place = document.elementsFromPoint(x, y).find((element) => element.matches('[data-pane]'));
      const { id } = pane.getState();
      const over = place instanceof HTMLElement ? (place.dataset.pane ?? null) : null;
      ui.getState().set({ footDrag: { from: id, over: over === id ? null : over, copies, x, y } });
    },
    onPointerUp() {
      const { footDrag } = ui.getState();
      end();
      if (!footDrag?.over) return;
      const { from, over, copies } = footDrag;
      if (copies) panes.getState().copyView(from, over);
      else panes.getState().swap(from, over);
    },
    onPointerCancel: end,
  };
}

/** While a foot is dragged: what letting go will do, beside the cursor and over the pane it concerns. */
export function FootDragMark({
  target: { ui, panes },
}: {
  readonly target: Parts<'panes' | 'ui'>;
}): ReactElement | null {
  const drag = useStore(ui, (state) => state.footDrag);
  const cursor = !drag ? null : drag.over === null ? 'grabbing' : drag.copies ? 'copy' : 'move';
  useEffect(() => {
    if (cursor) document.documentElement.dataset.footCursor = cursor;
    else delete document.documentElement.dataset.footCursor;
    return () => {
      delete document.documentElement.dataset.footCursor;
    };
  }, [cursor]);
  if (!drag) return null;
  const over = drag.over === null ? undefined : shownAreas(panes.getState()).get(drag.over);
  return (
    <>
      {over && (
        <div className="foot-drag-over" style={{ left: over.x, top: over.y, width: over.width, height: over.height }} />
      )}
      {createPortal(
        <div className="foot-drag" role="status" style={{ left: drag.x + 16, top: drag.y + 16 }}>
          {!over ? 'Drag onto another pane' : drag.copies ? 'Copy the view here' : 'Swap; with Ctrl copy the view'}
        </div>,
        document.body,
      )}
    </>
  );
}
