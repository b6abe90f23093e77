/** Support points: the few points of a layer that can be extreme in some direction. A fit never loops over the rest. */

export interface LayerSupport {
  /** Index of the layer. */
  readonly layer: number;
  /** x, y, z triples in drawing units: the corners of the layer's convex hull. */
  readonly points: readonly number[];
}

/**
 * @param visible whether a layer is shown, by its index
 * @returns x, y, z triples of all visible layers, for a fit in any direction
 */
export function supportOfVisible(layers: readonly LayerSupport[], visible: (layer: number) => boolean): Float64Array {
  return Float64Array.from(layers.filter(({ layer }) => visible(layer)).flatMap(({ points }) => points));
}
