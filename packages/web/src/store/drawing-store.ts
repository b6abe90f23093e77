import { createStore, type StoreApi } from 'zustand/vanilla';
import { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import type { CameraDto } from '@gull-pane/protocol/camera';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { TrailDto } from '@gull-pane/protocol/trail';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';

/** What is fetched of a drawing before it can be shown. */
export interface DrawingContent {
  readonly drawing: DrawingDto;
  readonly layers: readonly LayerDto[];
  readonly tileset: TilesetJson;
  /** Of a solid: its objects. */
  readonly solid: SolidTable | null;
  /** Where its pane has been before. */
  readonly trail: TrailDto;
}

/** The drawing that is open, and which of its layers are hidden. */
export interface DrawingState extends DrawingContent {
  /** Ids of hidden layers. */
  readonly hidden: ReadonlySet<number>;
  /** Objects hidden one by one; null if none is. */
  readonly hiddenObjects: ObjectMask | null;
  /** x, y, z triples around what is shown, known while objects are hidden. */
  readonly shownSupport: ArrayLike<number> | null;
  setLayersVisible(ids: readonly number[], visible: boolean): void;
  readonly hideObjects: (objects: Iterable<number>) => void;
  /** Hides every object but these. */
  readonly showOnlyObjects: (objects: Iterable<number>) => void;
  readonly showAllObjects: () => void;
  /** The view that Home goes to from now on. */
  readonly setHome: (home: CameraDto) => void;
}

export type DrawingStore = StoreApi<DrawingState>;

/** The layers that are hidden at first: those that the file has switched off. */
export const offLayers = (layers: readonly LayerDto[]): ReadonlySet<number> =>
  new Set(layers.filter(({ isOff }) => isOff).map(({ id }) => id));

/** @param told ids of hidden layers; null for those that the file has switched off */
export function createDrawingStore(content: DrawingContent, told: readonly number[] | null): DrawingStore {
  const hidden = told ?? [...offLayers(content.layers)];
  return createStore<DrawingState>((set, get) => ({
    ...content,
    hidden: new Set(hidden.filter((id) => content.layers.some((layer) => layer.id === id))),
    hiddenObjects: null,
    shownSupport: null,
    hideObjects(objects) {
      const mask = (get().hiddenObjects ?? ObjectMask.none(content.drawing.counts.objects)).hiding(objects);
      set({ hiddenObjects: mask.count > 0 ? mask : null });
    },
    showOnlyObjects(objects) {
      set({ hiddenObjects: ObjectMask.none(content.drawing.counts.objects).showingOnly(objects) });
    },
    showAllObjects() {
      set({ hiddenObjects: null, shownSupport: null });
    },
    setHome(home) {
      set({ drawing: { ...get().drawing, home } });
    },
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
