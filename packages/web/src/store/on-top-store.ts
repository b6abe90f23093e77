import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Mark } from '@gull-pane/core/marks/mark';
import { samePlane, worldPlane, type WorkPlane } from '@gull-pane/core/plane/work-plane';

/** What lies on top of a pane's drawing: which marks it shows, and the plane that points are placed in. */
export interface OnTopState {
  /** False hides all marks. */
  readonly showsMarks: boolean;
  /** Layers of marks that are hidden, by name. */
  readonly hiddenMarkLayers: ReadonlySet<string>;
  readonly isShown: (mark: Mark) => boolean;
  readonly plane: WorkPlane;
  /** What the plane is called; empty if it has no name. */
  readonly planeName: string;
  /** Whether that is the world's own. */
  readonly isWorld: boolean;
  readonly setShowsMarks: (shows: boolean) => void;
  readonly setMarkLayerShown: (layer: string, isShown: boolean) => void;
  readonly hideMarkLayers: (layers: readonly string[]) => void;
  readonly setPlane: (plane: WorkPlane, name?: string) => void;
}
export type OnTopStore = StoreApi<OnTopState>;

export function createOnTopStore(): OnTopStore {
  return createStore<OnTopState>((set, get) => ({
    showsMarks: true,
    hiddenMarkLayers: new Set(),
    isShown: ({ layer }) => get().showsMarks && !get().hiddenMarkLayers.has(layer),
    plane: worldPlane,
    planeName: '',
    isWorld: true,
    setShowsMarks: (showsMarks) => set({ showsMarks }),
    setMarkLayerShown(layer, isShown) {
      const hiddenMarkLayers = new Set(get().hiddenMarkLayers);
      if (isShown) hiddenMarkLayers.delete(layer);
      else hiddenMarkLayers.add(layer);
      set({ hiddenMarkLayers });
    },
    hideMarkLayers: (layers) => set({ hiddenMarkLayers: new Set(layers) }),
    setPlane: (plane, planeName = '') => set({ plane, planeName, isWorld: samePlane(plane, worldPlane) }),
  }));
}
