import type { Bindings, Input } from './inputs.ts';

export const profileIds = ['wheel-button', 'right-drag', 'trackpad', 'touch'] as const;
export type ProfileId = (typeof profileIds)[number];

/** A set of habits: which hand input does what. Keys of actions come from the actions themselves. */
export interface HandProfile {
  readonly id: ProfileId;
  readonly name: string;
  readonly sentence: string;
  readonly bindings: Bindings;
}

/** What all profiles share: fingers mean what they touch, a held letter borrows a movement, side buttons walk the trail. */
const shared: Readonly<Record<string, readonly Input[]>> = {
  pan: ['finger', 'hold:p'],
  zoom: ['pinch', 'fingers', 'hold:z'],
  twist: ['hold:t'],
  lens: ['hold:l'],
  orbit: ['hold:b'],
  'fit-all': ['double:finger', 'double:wheel'],
  'centre-here': ['press:wheel'],
  menu: ['press:right'],
  back: ['press:back'],
  forward: ['press:forward'],
};

function profile(id: ProfileId, name: string, sentence: string, more: Bindings): HandProfile {
  const acts = new Set([...Object.keys(more), ...Object.keys(shared)]);
  const bindings = Object.fromEntries([...acts].map((act) => [act, [...(more[act] ?? []), ...(shared[act] ?? [])]]));
  return { id, name, sentence, bindings };
}

export const handProfiles: readonly HandProfile[] = [
  profile('wheel-button', 'Wheel button', 'Turn the wheel to zoom, press it and drag to pan.', {
    zoom: ['turn', 'Ctrl+drag:wheel'],
    pan: ['drag:wheel', 'Alt+drag:left'],
    orbit: ['Shift+drag:wheel'],
    twist: ['Ctrl+Shift+drag:wheel'],
  }),
  profile('right-drag', 'Right drag', 'Turn the wheel to zoom, drag with the right button to pan.', {
    zoom: ['turn', 'Ctrl+drag:right'],
    pan: ['drag:right', 'drag:wheel'],
    orbit: ['Shift+drag:right', 'Shift+drag:wheel'],
    twist: ['Ctrl+Shift+drag:right'],
  }),
  profile('trackpad', 'Trackpad', 'Two fingers move the view, pinching zooms, no middle button is needed.', {
    zoom: ['Ctrl+turn', 'Ctrl+drag:left'],
    pan: ['turn', 'Alt+drag:left', 'drag:wheel'],
    orbit: ['Alt+Shift+drag:left', 'Shift+drag:wheel'],
    twist: ['Ctrl+Shift+drag:left'],
  }),
  profile('touch', 'Touch', 'One finger moves the view, two zoom; a pen or mouse drags it, too.', {
    zoom: ['turn', 'Ctrl+drag:left'],
    pan: ['drag:left', 'drag:wheel'],
    orbit: ['Alt+Shift+drag:left', 'Shift+drag:wheel'],
    twist: ['Ctrl+Shift+drag:left'],
  }),
];

/** The profile of this name; the first one if there is none. */
export const profileOf = (id: ProfileId): HandProfile =>
  handProfiles.find((candidate) => candidate.id === id) ?? handProfiles[0]!;
