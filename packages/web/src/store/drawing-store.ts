import { createStore, type StoreApi } from 'zustand/vanilla';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { TrailDto } from '@gull-pane/protocol/trail';
import type { TilesetJson } from '@gull-pane/protocol/tileset';

/** What is fetched of a drawing before it can be shown. */
export interface DrawingContent {
  readonly drawing: DrawingDto;
  readonly layers: readonly LayerDto[];
  readonly tileset: TilesetJson;
  /** Where its pane has been before. */
  readonly trail: TrailDto;
}

/** The drawing that is open, and which of its layers are hidden. */
export interface DrawingState extends DrawingContent {
  /** Ids of hidden layers. */
  readonly hidden: ReadonlySet<number>;
  setLayersVisible(ids: readonly number[], visible: boolean): void;
}

export type DrawingStore = StoreApi<DrawingState>;

export function createDrawingStore(content: DrawingContent, hidden: readonly number[]): DrawingStore {
  return createStore<DrawingState>((set, get) => ({
    ...content,
    hidden: new Set(hidden.filter((id) => content.layers.some((layer) => layer.id === id))),
    setLayersVisible(ids, visible) {
      const next = new Set(get().hidden);
      for (const id of ids) {
        if (visible) next.delete(id);
        else next.add(id);
      }
      set({ hidden: next });
    },
  }));
}
