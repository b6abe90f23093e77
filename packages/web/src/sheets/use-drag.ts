import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

/** What dragging by a grip does; ways in mm of paper. */
export interface DragActs<Grip extends string> {
  readonly pxPerMm: number;
  readonly onBegin: () => void;
  readonly onDrag: (grip: Grip, way: readonly [rightMm: number, downMm: number]) => void;
  readonly onDrop: (grip: Grip, way: readonly [rightMm: number, downMm: number]) => void;
  readonly onCancel: () => void;
}

/** A pointer that moved less than this was a click, CSS px. */
const CLICK_PX = 2;

/** Grips that are dragged on a sheet. @returns what an element that is one needs */
export function useDrag<Grip extends string>(acts: DragActs<Grip>) {
  const start = useRef<{ readonly grip: Grip; readonly x: number; readonly y: number }>(null);
  const way = ({ clientX, clientY }: PointerEvent<HTMLElement>, from: { x: number; y: number }) =>
    [(clientX - from.x) / acts.pxPerMm, (clientY - from.y) / acts.pxPerMm] as const;
  return (grip: Grip) => ({
    onPointerDown: (event: PointerEvent<HTMLElement>): void => {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      start.current = { grip, x: event.clientX, y: event.clientY };
      acts.onBegin();
    },
    onPointerMove: (event: PointerEvent<HTMLElement>): void => {
      if (start.current?.grip === grip) acts.onDrag(grip, way(event, start.current));
    },
    onPointerUp: (event: PointerEvent<HTMLElement>): void => {
      const from = start.current;
      if (from?.grip !== grip) return;
      start.current = null;
      const [right, down] = way(event, from);
      if (Math.hypot(right, down) * acts.pxPerMm < CLICK_PX) acts.onCancel();
      else acts.onDrop(grip, [right, down]);
    },
    onPointerCancel: (): void => {
      start.current = null;
      acts.onCancel();
    },
  });
}

const arrows: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Arrow keys as ways on paper: `stepMm` each, ten times that with Shift. */
export const byArrowKeys =
  (stepMm: number, onWay: (way: readonly [rightMm: number, downMm: number]) => void) =>
  (event: KeyboardEvent<HTMLElement>): void => {
    const way = arrows[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    const reach = stepMm * (event.shiftKey ? 10 : 1);
    onWay([way[0] * reach, way[1] * reach]);
  };
