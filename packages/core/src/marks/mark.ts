import type { Vec3 } from '../geometry/vec.ts';

export const markKinds = [
  ...(['point', 'line', 'chain', 'rectangle', 'circle', 'arc', 'note', 'cloud', 'hatch'] as const),
  ...(['box', 'cylinder', 'sphere', 'measure', 'plane'] as const),
] as const;
export type MarkKind = (typeof markKinds)[number];

export const lineStyles = ['solid', 'dashed', 'dotted'] as const;
export type LineStyle = (typeof lineStyles)[number];

/** Widths of lines on paper, mm (ISO 128-2). */
export const lineWidthsMm = [0.18, 0.25, 0.35, 0.5, 0.7, 1, 1.4] as const;

/** How a mark looks and where it belongs. */
export interface MarkStyle {
  /** Marks of one layer are shown and hidden together. */
  readonly layer: string;
  /** #rrggbb */
  readonly colour: string;
  readonly line: LineStyle;
  /** On the screen and on paper, whatever the scale. */
  readonly widthMm: number;
}

/** Something drawn on top of a drawing. Drawing coordinates. */
export interface Mark extends MarkStyle {
  readonly id: string;
  readonly kind: MarkKind;
  /**
   * What it is made of: of a circle or sphere the centre and a place on it, of a rectangle or cloud two opposite corners, of a
   * box these and its height, of a cylinder centre, rim and height, of a note what it points at and where it stands.
   */
  readonly points: readonly Vec3[];
  /** Axes of the plane that it was drawn in, unit vectors at right angles. */
  readonly x: Vec3;
  readonly y: Vec3;
  /** Of a note, and the name of a plane. */
  readonly text: string;
  /** Of a measurement: what was measured. */
  readonly measure?: string;
  /** Of a hatch: closed rings, x and y in its plane about its first point; the even-odd rule tells inside. */
  readonly rings?: readonly (readonly number[])[];
}

export const usualStyle: MarkStyle = { layer: 'Marks', colour: '#c2410c', line: 'solid', widthMm: 0.35 };
