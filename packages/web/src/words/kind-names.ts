import type { ShownKinds } from '@gull-pane/core/view/shown';

export const kindNames: readonly (readonly [keyof ShownKinds, string])[] = [
  ['texts', 'Texts'],
  ['fills', 'Filled areas and pictures'],
  ['weights', 'Line weights'],
  ['dashes', 'Dash patterns'],
  ['lineStyles', 'Colours of lines'],
  ['transparency', 'Transparency'],
];
