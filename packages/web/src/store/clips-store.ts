import { createStore, type StoreApi } from 'zustand/vanilla';
import { MOST_CLIPS, boxAbout, facing, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { identityQuaternion } from '@gull-pane/core/geometry/quaternion';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import { addClip, changeClip, drawClip, removeClip, toggleClips, type Shown } from '@gull-pane/core/view/shown';
import type { PaneStore } from './pane-state';

type ClipChange = Partial<Omit<ClipVolume, 'id' | 'kind'>>;

/** What is done to the clips of a pane; the clips themselves are part of its view. */
export interface ClipsState {
  /** The one whose handles are shown. */
  readonly chosen: number | null;
  /** Why nothing was cut. */
  readonly refusal: string | null;
  /** A box about what is picked, or about everything. */
  readonly addBox: () => void;
  /** By the face that is seen at a place. */
  readonly cutBy: (use: 'section' | 'box', at: Vec2) => void;
  readonly change: (id: number, change: ClipChange) => void;
  /** Draws a side outwards; `endDraw` makes what was drawn a step. */
  readonly draw: (id: number, face: number, by: number) => void;
  readonly endDraw: () => void;
  readonly remove: (id: number) => void;
  readonly choose: (id: number | null) => void;
  /** All off, or all on again. */
  readonly toggleAll: () => void;
}
export type ClipsStore = StoreApi<ClipsState>;

/** What clips need from around them. */
export interface ClipsSurroundings {
  /** x, y, z triples of what is picked; none if nothing is. */
  readonly picked: () => readonly number[];
  /** x, y, z triples of everything. */
  readonly all: () => ArrayLike<number>;
  readonly faceAt: (at: Vec2) => { readonly point: Vec3; readonly normal: Vec3; readonly object: number } | null;
  readonly cornersOf: (object: number) => readonly number[];
}

/** A box is so much larger than what it is about, as a share of its longest side. */
const MARGIN = 0.02;

export function createClipsStore(pane: PaneStore, around: ClipsSurroundings): ClipsStore {
  const clips = (): readonly ClipVolume[] => pane.getState().shown.clips;
  return createStore<ClipsState>((set, get) => {
    const step = (change: (shown: Shown) => Shown): void => pane.getState().update(change, 'clips');
    const add = (clip: Pick<ClipVolume, 'kind' | 'centre' | 'half' | 'orientation'>): void => {
      if (clips().length >= MOST_CLIPS) {
        set({ refusal: `No more than ${MOST_CLIPS} cut at a time: take one away first.` });
        return;
      }
      step((shown) => addClip(shown, clip));
      set({ chosen: clips().at(-1)!.id, refusal: null });
    };
    const addBoxAbout = (points: ArrayLike<number>, orientation = identityQuaternion): void => {
      const tight = boxAbout(points, orientation, 0);
      const margin = 2 * MARGIN * Math.max(tight.half.x, tight.half.y, tight.half.z);
      add({ kind: 'box', ...boxAbout(points, orientation, margin) });
    };
    return {
      chosen: null,
      refusal: null,
      addBox() {
        const picked = around.picked();
        addBoxAbout(picked.length > 0 ? picked : around.all());
      },
      cutBy(use, at) {
        const face = around.faceAt(at);
        if (!face) set({ refusal: 'There is no face under the cursor: click one of the model.' });
        else if (use === 'section')
          add({ kind: 'plane', centre: face.point, orientation: facing(face.normal), half: { x: 1, y: 1, z: 1 } });
        else {
          const picked = around.picked();
          addBoxAbout(picked.length > 0 ? picked : around.cornersOf(face.object), facing(face.normal));
        }
      },
      change(id, change) {
        step((shown) => changeClip(shown, id, change));
        set({ refusal: null });
      },
      draw: (id, face, by) => pane.getState().update((shown) => drawClip(shown, id, face, by), null),
      endDraw: () => pane.getState().keepShown('clips'),
      remove(id) {
        step((shown) => removeClip(shown, id));
        set({ chosen: get().chosen === id ? (clips().at(-1)?.id ?? null) : get().chosen, refusal: null });
      },
      choose(chosen) {
        set({ chosen });
      },
      toggleAll: () => step(toggleClips),
    };
  });
}
