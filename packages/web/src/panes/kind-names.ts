import type { PaneLooks } from '../render/pane-view';

export const kindNames: readonly (readonly [keyof PaneLooks, string])[] = [
  ['texts', 'Texts'],
  ['fills', 'Filled areas'],
  ['weights', 'Line weights'],
  ['dashes', 'Broken lines as such'],
  ['lineStyles', 'Colours of lines'],
  ['transparency', 'Transparency'],
];
