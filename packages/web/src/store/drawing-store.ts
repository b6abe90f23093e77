import { createStore, type StoreApi } from 'zustand/vanilla';
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

/** The drawing that is open, in however many panes. */
export interface DrawingState extends DrawingContent {
  /** The view that Home goes to from now on. */
  readonly setHome: (home: CameraDto) => void;
  /** It was renamed or its home was changed elsewhere. */
  readonly heard: (news: Pick<DrawingDto, 'name' | 'home'>) => void;
}

export type DrawingStore = StoreApi<DrawingState>;

/** The layers that are hidden at first: those that the file has switched off. */
export const offLayers = (layers: readonly LayerDto[]): ReadonlySet<number> =>
  new Set(layers.filter(({ isOff }) => isOff).map(({ id }) => id));

export const createDrawingStore = (content: DrawingContent): DrawingStore =>
  createStore<DrawingState>((set, get) => ({
    ...content,
    setHome(home) {
      set({ drawing: { ...get().drawing, home } });
    },
    heard({ name, home }) {
      set({ drawing: { ...get().drawing, name, home } });
    },
  }));
