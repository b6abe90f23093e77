import { useCallback, useLayoutEffect, useRef, useState } from 'react';
import type * as DragManager from './drag-manager';
import type { DragKind, Dragged, DropPlace } from './dragged';

/** What an element gets as its `ref`. */
type ElementRef = (element: HTMLElement | null) => (() => void) | undefined;

type Manager = typeof DragManager;

/** Places on the page, with what ends them; nothing can be dropped on them before there is something to drag. */
const places = new Map<DropPlace, (() => void) | null>();
let loaded: Manager | null = null;
let loading: Promise<Manager> | null = null;
const load = (): Promise<Manager> =>
  (loading ??= import('./drag-manager').then((manager) => {
    loaded = manager;
    for (const place of places.keys()) places.set(place, manager.attachPlace(place));
    return manager;
  }));

/**
 * Lets an element be dragged.
 * @param onEnd it was dropped, or the drag was left
 * @returns what the element gets as its `ref`
 */
export function useDragged(kind: DragKind, id: string, onEnd?: () => void): ElementRef {
  const end = useRef(onEnd);
  useLayoutEffect(() => void (end.current = onEnd));
  return useCallback(
    (element) => {
      if (!element) return undefined;
      let isGone = false;
      let detach: (() => void) | null = null;
      const attach = ({ attachDragged }: Manager): void => {
        if (!isGone) detach = attachDragged(element, { kind, id }, () => end.current?.());
      };
      if (loaded) attach(loaded);
      else void load().then(attach, () => {}); // it can be moved by menus and keys as well
      return () => {
        isGone = true;
        detach?.();
      };
    },
    [kind, id],
  );
}

/**
 * Lets things be dropped on an element.
 * @param accepts kinds, joined by blanks
 * @returns what the element gets as its `ref`, and whether something that can be dropped is over it
 */
export function useDropPlace(
  accepts: string,
  onDrop: (dragged: Dragged) => void,
  isInner = false,
): { readonly ref: ElementRef; readonly isOver: boolean } {
  const drop = useRef(onDrop);
  useLayoutEffect(() => void (drop.current = onDrop));
  const [isOver, setOver] = useState(false);
  const ref = useCallback(
    (element: HTMLElement | null) => {
      if (!element) return undefined;
      const place: DropPlace = {
        element,
        accepts: accepts.split(' ') as DragKind[],
        isInner,
        onOver: setOver,
        onDrop: (dragged) => drop.current(dragged),
      };
      places.set(place, loaded?.attachPlace(place) ?? null);
      return () => {
        places.get(place)?.();
        places.delete(place);
      };
    },
    [accepts, isInner],
  );
  return { ref, isOver };
}

/** Both refs for one element. */
export const bothRefs =
  (one: ElementRef, other: ElementRef): ElementRef =>
  (element) => {
    const ends = [one(element), other(element)];
    return () => {
      for (const end of ends) end?.();
    };
  };
