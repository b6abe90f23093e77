import type { Colour } from '@gull-pane/core/drawing/model';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';

/** The pane that a picture is of: `1/lens` is one of pane 1. */
export const paneOf = (picture: string): string => picture.split('/', 1)[0]!;

/** Everything of one drawing that its panes share. */
export interface Scene {
  readonly kind: 'flat' | 'solid';
  /** Bytes of decoded tiles. */
  readonly cachedBytes: number;
  /** @param listener called when something looks different now @returns a function that ends that */
  onChange(listener: () => void): () => void;
  setGround(ground: Colour): void;
  /** What one pane hides. @param mask null if every object is shown */
  hideObjects(pane: string, mask: ObjectMask | null): void;
  /** A pane shows it no more: what was kept for it goes. */
  leave(pane: string): void;
  /** What a pane wants to show, best first; tiles that any pane wants are kept and fetched. */
  want(pane: string, tiles: readonly number[]): void;
  dispose(): void;
}
