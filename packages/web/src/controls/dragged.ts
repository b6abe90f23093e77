export type DragKind = 'view' | 'arrangement' | 'stop' | 'drawing';

/** What is dragged, by mouse, pen or finger. */
export interface Dragged {
  readonly kind: DragKind;
  readonly id: string;
}

/** Where it can be dropped. */
export interface DropPlace {
  readonly element: HTMLElement;
  readonly accepts: readonly DragKind[];
  /** It lies inside another place, before which it comes. */
  readonly isInner: boolean;
  readonly onOver: (isOver: boolean) => void;
  readonly onDrop: (dragged: Dragged) => void;
}
