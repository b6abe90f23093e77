/** How a solid is shown. */
export const solidLooks = ['lines', 'hidden-line', 'shaded', 'shaded-edges', 'materials', 'see-through'] as const;
export type SolidLook = (typeof solidLooks)[number];
