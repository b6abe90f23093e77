import { pointerIntersection } from '@dnd-kit/collision';
import {
  AutoScroller,
  Cursor,
  DragDropManager,
  Draggable,
  Droppable,
  Feedback,
  PointerActivationConstraints,
  PointerSensor,
  PreventSelection,
} from '@dnd-kit/dom';
import type { Dragged, DropPlace } from './dragged';

/** A mouse that moves this far, CSS px, drags; a finger that stays for a moment does. */
const DRAG_PX = 5;
const HOLD_MS = 250;

const manager = new DragDropManager({
  plugins: [AutoScroller, Cursor, PreventSelection, Feedback.configure({ feedback: 'clone', dropAnimation: null })],
  sensors: [
    PointerSensor.configure({
      activationConstraints: ({ pointerType }) =>
        pointerType === 'touch'
          ? [new PointerActivationConstraints.Delay({ value: HOLD_MS, tolerance: DRAG_PX })]
          : [new PointerActivationConstraints.Distance({ value: DRAG_PX })],
      // texts are selected in fields, and menus open
      preventActivation: ({ target }) => target instanceof Element && target.closest('input, [aria-haspopup]') !== null,
    }),
  ],
});

interface SourceData {
  readonly dragged: Dragged;
  readonly onEnd: () => void;
}
interface PlaceData {
  readonly place: DropPlace;
}
let over: DropPlace | null = null;
const setOver = (place: DropPlace | null): void => {
  if (place === over) return;
  over?.onOver(false);
  over = place;
  over?.onOver(true);
};
const placeOf = (target: { readonly data: unknown } | null | undefined): DropPlace | null =>
  target ? (target.data as PlaceData).place : null;
manager.monitor.addEventListener('dragover', ({ operation: { target } }) => setOver(placeOf(target)));
manager.monitor.addEventListener('dragend', ({ operation: { source, target }, canceled }) => {
  setOver(null);
  if (!source) return;
  const { dragged, onEnd } = source.data as unknown as SourceData;
  onEnd();
  if (!canceled) placeOf(target)?.onDrop(dragged);
});

let lastId = 0;

/** Lets an element be dragged. @returns what ends it */
export function attachDragged(element: HTMLElement, dragged: Dragged, onEnd: () => void): () => void {
  const source = new Draggable(
    { id: `dragged-${++lastId}`, element, type: dragged.kind, data: { dragged, onEnd } },
    manager,
  );
  element.dataset['canDrag'] = ''; // the cursor tells
  return () => source.destroy();
}

/** Lets things be dropped on an element. @returns what ends it */
export function attachPlace(place: DropPlace): () => void {
  const { element, accepts, isInner } = place;
  const target = new Droppable(
    {
      id: `place-${++lastId}`,
      element,
      accept: [...accepts],
      collisionDetector: pointerIntersection,
      collisionPriority: isInner ? 2 : 1,
      data: { place },
    },
    manager,
  );
  return () => {
    if (over === place) setOver(null);
    target.destroy();
  };
}
