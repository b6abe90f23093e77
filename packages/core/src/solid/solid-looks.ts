/** How a solid is shown. */
export const solidLooks = [
  ...(['lines', 'hidden-line', 'hidden-dashed'] as const),
  ...(['shaded', 'shaded-edges', 'materials', 'see-through'] as const),
] as const;
export type SolidLook = (typeof solidLooks)[number];
