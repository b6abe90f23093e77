import { MOST_CLIPS, drawFace, type ClipVolume } from '../clip/clip-volume.ts';
import { ObjectMask } from '../drawing/object-mask.ts';
import { samePlane, worldPlane, type WorkPlane } from '../plane/work-plane.ts';
import type { SolidLook } from '../solid/solid-looks.ts';

/** Which kinds of content a pane shows, and how. */
export interface ShownKinds {
  readonly fills: boolean;
  readonly texts: boolean;
  /** Lines in their colours; black if false, as wide and as broken as before. */
  readonly lineStyles: boolean;
  /** Lines as wide as the drawing says; hairlines if false. */
  readonly weights: boolean;
  /** Dash patterns; unbroken lines if false. */
  readonly dashes: boolean;
  /** Transparent content is seen through; everything covers if false. */
  readonly transparency: boolean;
}

export const allKinds: ShownKinds = {
  fills: true,
  texts: true,
  lineStyles: true,
  weights: true,
  dashes: true,
  transparency: true,
};
export const kindNames = Object.keys(allKinds) as readonly (keyof ShownKinds)[];

/** Which marks a pane shows. */
export interface ShownMarks {
  /** False hides all of them. */
  readonly areShown: boolean;
  /** Layers of marks that are hidden, by name. */
  readonly hiddenLayers: ReadonlySet<string>;
}

/** Lays the plane in which points are placed. */
export interface NamedPlane {
  readonly plane: WorkPlane;
  /** Empty if it has no name. */
  readonly name: string;
}

/**
 * How a pane shows its drawing: all of a view but the camera. Immutable; every function here returns the same value if
 * nothing changes, so that `===` tells whether anything did.
 */
export interface Shown {
  /** Of a model. */
  readonly look: SolidLook;
  readonly kinds: ShownKinds;
  /** Ids of hidden layers. */
  readonly hiddenLayers: ReadonlySet<number>;
  /** Objects hidden one by one; null if none is. */
  readonly hiddenObjects: ObjectMask | null;
  readonly clips: readonly ClipVolume[];
  readonly marks: ShownMarks;
  readonly workPlane: NamedPlane;
  /** Id of the plan that lies on a model's ground; null for none. */
  readonly groundPlan: string | null;
}

export const worldWorkPlane: NamedPlane = { plane: worldPlane, name: '' };
const allMarks: ShownMarks = { areShown: true, hiddenLayers: new Set() };

/** What a pane shows at first. @param hiddenLayers ids of layers that are off */
export const shownAtFirst = (hiddenLayers: Iterable<number> = [], groundPlan: string | null = null): Shown => ({
  look: 'shaded-edges',
  kinds: allKinds,
  hiddenLayers: new Set(hiddenLayers),
  hiddenObjects: null,
  clips: [],
  marks: allMarks,
  workPlane: worldWorkPlane,
  groundPlan,
});

/** Whether other layers or objects are hidden. */
export const hidesOther = (a: Shown, b: Shown): boolean =>
  a.hiddenLayers !== b.hiddenLayers || a.hiddenObjects !== b.hiddenObjects;

/** The same with another look; unchanged if it has it. */
export const withLook = (shown: Shown, look: SolidLook): Shown => (look === shown.look ? shown : { ...shown, look });

/** The same with some kinds of content shown or hidden; unchanged if they are. */
export function withKinds(shown: Shown, change: Partial<ShownKinds>): Shown {
  const kinds = { ...shown.kinds, ...change };
  return kindNames.every((kind) => kinds[kind] === shown.kinds[kind]) ? shown : { ...shown, kinds };
}

/** The same with layers shown or hidden; unchanged if they are. @param layers their numbers */
export function withLayers(shown: Shown, layers: Iterable<number>, areShown: boolean): Shown {
  const hiddenLayers = changed(shown.hiddenLayers, layers, !areShown);
  return hiddenLayers === shown.hiddenLayers ? shown : { ...shown, hiddenLayers };
}

/** Also hides these objects. @param count how many the drawing has */
export function hideObjects(shown: Shown, objects: Iterable<number>, count: number): Shown {
  const before = shown.hiddenObjects ?? ObjectMask.none(count);
  const mask = before.hiding(objects);
  return mask.count === before.count ? shown : { ...shown, hiddenObjects: mask };
}

/** Hides all objects but these. @param count how many the drawing has */
export const showOnlyObjects = (shown: Shown, objects: Iterable<number>, count: number): Shown => ({
  ...shown,
  hiddenObjects: ObjectMask.none(count).showingOnly(objects),
});

/** The same with no object hidden by itself. */
export const showAllObjects = (shown: Shown): Shown =>
  shown.hiddenObjects ? { ...shown, hiddenObjects: null } : shown;

/** Adds a clip. @returns the same if no more fit */
export function addClip(shown: Shown, clip: Pick<ClipVolume, 'kind' | 'centre' | 'half' | 'orientation'>): Shown {
  if (shown.clips.length >= MOST_CLIPS) return shown;
  const id = Math.max(0, ...shown.clips.map((one) => one.id)) + 1;
  const name = `${clip.kind === 'box' ? 'Box' : 'Section'} ${id}`;
  return { ...shown, clips: [...shown.clips, { ...clip, id, name, keeps: 'inside', isOn: true }] };
}

const mapClips = (shown: Shown, change: (clip: ClipVolume) => ClipVolume): Shown => {
  const clips = shown.clips.map(change);
  return clips.every((clip, i) => clip === shown.clips[i]) ? shown : { ...shown, clips };
};

/** The same with another form of one clip. */
export const changeClip = (shown: Shown, id: number, change: Partial<Omit<ClipVolume, 'id' | 'kind'>>): Shown =>
  mapClips(shown, (clip) => (clip.id === id ? { ...clip, ...change } : clip));

/** Moves a face of a clip outwards. @param by drawing units */
export const drawClip = (shown: Shown, id: number, face: number, by: number): Shown =>
  mapClips(shown, (clip) => (clip.id === id ? drawFace(clip, face, by) : clip));

/** The same without a clip; unchanged if it has none with this id. */
export function removeClip(shown: Shown, id: number): Shown {
  const clips = shown.clips.filter((clip) => clip.id !== id);
  return clips.length === shown.clips.length ? shown : { ...shown, clips };
}

/** All of them off, or all on if none is. */
export function toggleClips(shown: Shown): Shown {
  const isAny = shown.clips.some(({ isOn }) => isOn);
  return mapClips(shown, (clip) => (clip.isOn === isAny ? { ...clip, isOn: !isAny } : clip));
}

/** The same with all marks shown or hidden. */
export const withMarks = (shown: Shown, areShown: boolean): Shown =>
  areShown === shown.marks.areShown ? shown : { ...shown, marks: { ...shown.marks, areShown } };

/** The same with layers of marks shown or hidden. @param layers their names */
export function withMarkLayers(shown: Shown, layers: Iterable<string>, areShown: boolean): Shown {
  const hiddenLayers = changed(shown.marks.hiddenLayers, layers, !areShown);
  return hiddenLayers === shown.marks.hiddenLayers ? shown : { ...shown, marks: { ...shown.marks, hiddenLayers } };
}

/** Whether a mark is drawn, by its layer and the switch for all of them. */
export const isMarkShown = ({ marks }: Shown, { layer }: { readonly layer: string }): boolean =>
  marks.areShown && !marks.hiddenLayers.has(layer);

/** The same with another work plane. @param name empty if it has none */
export function withWorkPlane(shown: Shown, plane: WorkPlane, name = ''): Shown {
  const before = shown.workPlane;
  return name === before.name && samePlane(plane, before.plane) ? shown : { ...shown, workPlane: { plane, name } };
}

/** Whether points are placed in the world's own plane. */
export const isWorldPlane = ({ workPlane }: Shown): boolean => samePlane(workPlane.plane, worldPlane);

/** The same with another plan on the ground. @param groundPlan id of a drawing, null for none */
export const withGroundPlan = (shown: Shown, groundPlan: string | null): Shown =>
  groundPlan === shown.groundPlan ? shown : { ...shown, groundPlan };

/** A set with these in it, or without them; the same if it is so already. */
function changed<T>(set: ReadonlySet<T>, members: Iterable<T>, areIn: boolean): ReadonlySet<T> {
  const next = new Set(set);
  for (const member of members) {
    if (areIn) next.add(member);
    else next.delete(member);
  }
  // members were only added or only deleted
  return next.size === set.size ? set : next;
}
