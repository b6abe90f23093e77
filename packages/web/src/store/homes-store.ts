import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Camera } from '@gull-pane/core/camera/camera';

interface Homes {
  /** The home view of each drawing that has one of its own, by the drawing's id. */
  readonly byDrawing: Readonly<Record<string, Camera>>;
  readonly keep: (drawing: string, camera: Camera) => void;
}

/** Home views; kept in the browser. */
export const useHomes = create<Homes>()(
  persist(
    (set, get) => ({
      byDrawing: {},
      keep: (drawing, camera) => set({ byDrawing: { ...get().byDrawing, [drawing]: camera } }),
    }),
    { name: 'gull-pane-homes' },
  ),
);
