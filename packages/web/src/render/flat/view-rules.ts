import { viewBox } from '@gull-pane/core/camera/view-box';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { Tileset } from '@gull-pane/protocol/read-tileset';
import type { TilePart } from '../../tiles/tile-worker';
import { MAX_CHORD_ERROR_PX, exactForm } from './fine-wish';
import type { PaneView } from '../picture/pane-view';

/** How a style is drawn at the present scale. */
export type LineLook = 'hidden' | 'hairline' | 'dashedHairline' | 'stroke' | 'dashedStroke';

/** A line wider than this has triangles, a thinner one is the thinnest there is; device px. */
export const WIDE_FROM_PX = 1.5;
/** A tile larger than this many times the view is clipped to it. */
const NEAR_TIMES_VIEW = 4;
/** A tile whose edge single precision misses by more than this is drawn anew about the view, CSS px. */
const COARSE_PX = 0.05;

/** What a view asks of styles and tiles. */
export class ViewRules {
  constructor(
    private readonly view: PaneView,
    private readonly tileset: Tileset,
    private readonly pixelRatio: number,
    /** Whether nothing stands for what is too small to be drawn. */
    readonly isWithoutStandIns = false,
  ) {}

  readonly #looks: LineLook[] = [];

  lookOf(style: number): LineLook {
    return (this.#looks[style] ??= this.#look(style));
  }

  #look(style: number): LineLook {
    const { kind, layer, width, dashes } = this.tileset.styles[style]!;
    const { camera, hiddenLayers, kinds } = this.view;
    if (hiddenLayers.has(layer) || (kind === 'fill' && !kinds.fills)) return 'hidden';
    const isWide = kinds.weights && width * this.pixelRatio > WIDE_FROM_PX * camera.unitsPerPx;
    if (dashes.length > 0 && kinds.dashes) return isWide ? 'dashedStroke' : 'dashedHairline';
    return isWide ? 'stroke' : 'hairline';
  }

  /** Whether only the part of a tile about the view is drawn, clipped and placed anew. */
  isNear(tile: number): boolean {
    const { halfSize } = this.tileset.tiles[tile]!;
    const { camera } = this.view;
    const viewport = this.view.pane ?? this.view.viewport;
    const half = Math.max(halfSize.x, halfSize.y);
    const viewHalf = (Math.max(viewport.widthPx, viewport.heightPx) / 2) * camera.unitsPerPx;
    return half > NEAR_TIMES_VIEW * viewHalf || half / 2 ** 25 > COARSE_PX * camera.unitsPerPx;
  }

  /** Whether the coarse form of a tile's lines or areas would show. */
  needsFine(tile: number, part: TilePart): boolean {
    const needed = (MAX_CHORD_ERROR_PX * this.view.camera.unitsPerPx) / this.pixelRatio;
    return exactForm(this.tileset.tiles[tile]!, part)[1] > needed;
  }

  /** How far what is wanted of near tiles reaches from the middle of the view: it with its widest lines, at any twist. */
  nearReach(): number {
    const { camera, viewport } = this.view;
    const half = (Math.hypot(viewport.widthPx, viewport.heightPx) / 2) * camera.unitsPerPx * 1.1;
    return half + this.tileset.styles.reduce((widest, { width }) => Math.max(widest, width), 0);
  }

  /**
   * What is seen, relative to a tile's origin; null if all of the tile is.
   * @param box the tile's, relative to its origin
   */
  seenFrom(origin: Vec3, box: Box2): Box2 | null {
    const { camera, viewport } = this.view;
    const seen = viewBox(camera, viewport, origin);
    const isAll = box.minX >= seen.minX && box.maxX <= seen.maxX && box.minY >= seen.minY && box.maxY <= seen.maxY;
    return isAll ? null : seen;
  }
}

export const overlaps = (a: Box2, b: Box2): boolean =>
  a.minX <= b.maxX && a.maxX >= b.minX && a.minY <= b.maxY && a.maxY >= b.minY;
