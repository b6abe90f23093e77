import type { LucideIcon } from 'lucide-react';
import type { DrawingStore } from '../store/drawing-store';
import type { PaneStore } from '../store/pane-store';

/** What an action works on. */
export interface ActionTarget {
  readonly pane: PaneStore;
  readonly drawing: DrawingStore;
}

/**
 * Something that can be done to the active pane. One description serves its button, its tooltip and its keys; a new one
 * is an entry in a file of this folder.
 */
export interface Action {
  readonly id: string;
  readonly name: string;
  /** What it does, one sentence. */
  readonly sentence: string;
  /** Each as `KeyboardEvent.key`, with `Shift+` before it where that is held; the first is the one that is shown. */
  readonly keys: readonly string[];
  readonly icon: LucideIcon;
  run(target: ActionTarget): void;
  isEnabled?(target: ActionTarget): boolean;
  /** For tools: whether it is the one in hand. */
  isOn?(target: ActionTarget): boolean;
}
