import type { SolidLook } from '@gull-pane/core/solid/solid-looks';

export const lookNames: Readonly<Record<SolidLook, string>> = {
  lines: 'Lines',
  'hidden-line': 'Hidden line',
  'hidden-dashed': 'Hidden dashed',
  shaded: 'Shaded',
  'shaded-edges': 'Shaded + edges',
  materials: 'Materials',
  'see-through': 'See-through',
};
