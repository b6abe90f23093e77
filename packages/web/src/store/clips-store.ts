import { createStore, type StoreApi } from 'zustand/vanilla';
import { boxAbout, drawFace, facing, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { identityQuaternion } from '@gull-pane/core/geometry/quaternion';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';

export interface ClipsState {
  /** What cuts this pane open. */
  readonly volumes: readonly ClipVolume[];
  /** The one whose handles are shown. */
  readonly chosen: number | null;
  /** Why nothing was cut. */
  readonly refusal: string | null;
  /** A box about what is picked, or about everything. */
  readonly addBox: () => void;
  /** By the face that is seen at a place. */
  readonly cutBy: (use: 'section' | 'box', at: Vec2) => void;
  readonly change: (id: number, change: Partial<Omit<ClipVolume, 'id' | 'kind'>>) => void;
  /** Draws a side outwards. */
  readonly draw: (id: number, face: number, by: number) => void;
  readonly remove: (id: number) => void;
  readonly choose: (id: number | null) => void;
  /** All of them become others. */
  readonly replace: (volumes: readonly Omit<ClipVolume, 'id'>[]) => void;
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
  readonly most: number;
}

/** A box is so much larger than what it is about, as a share of its longest side. */
const MARGIN = 0.02;

/** What cuts a solid open in one pane. */
export function createClipsStore(around: ClipsSurroundings): ClipsStore {
  let lastId = 0;
  return createStore<ClipsState>((set, get) => {
    const add = (volume: Pick<ClipVolume, 'kind' | 'centre' | 'half' | 'orientation'>): void => {
      const { volumes } = get();
      if (volumes.length >= around.most) {
        set({ refusal: `No more than ${around.most} cut at a time: take one away first.` });
        return;
      }
      const id = ++lastId;
      const name = `${volume.kind === 'box' ? 'Box' : 'Section'} ${id}`;
      set({
        volumes: [...volumes, { ...volume, id, name, keeps: 'inside', isOn: true }],
        ...{ chosen: id, refusal: null },
      });
    };
    const addBoxAbout = (points: ArrayLike<number>, orientation = identityQuaternion): void => {
      const tight = boxAbout(points, orientation, 0);
      const margin = 2 * MARGIN * Math.max(tight.half.x, tight.half.y, tight.half.z);
      add({ kind: 'box', ...boxAbout(points, orientation, margin) });
    };
    return {
      volumes: [],
      chosen: null,
      refusal: null,
      addBox() {
        const picked = around.picked();
        addBoxAbout(picked.length > 0 ? picked : around.all());
      },
      cutBy(use, at) {
        const face = around.faceAt(at);
        if (!face) set({ refusal: 'Nothing is there to cut by: click a face of the model.' });
        else if (use === 'section')
          add({ kind: 'plane', centre: face.point, orientation: facing(face.normal), half: { x: 1, y: 1, z: 1 } });
        else {
          const picked = around.picked();
          addBoxAbout(picked.length > 0 ? picked : around.cornersOf(face.object), facing(face.normal));
        }
      },
      change(id, change) {
        set({
          volumes: get().volumes.map((volume) => (volume.id === id ? { ...volume, ...change } : volume)),
          refusal: null,
        });
      },
      draw(id, face, by) {
        const moved = get().volumes.map((volume) => (volume.id === id ? drawFace(volume, face, by) : volume));
        set({ volumes: moved });
      },
      remove(id) {
        const { volumes, chosen } = get();
        const rest = volumes.filter((volume) => volume.id !== id);
        set({ volumes: rest, chosen: chosen === id ? (rest.at(-1)?.id ?? null) : chosen, refusal: null });
      },
      choose(chosen) {
        set({ chosen });
      },
      replace(volumes) {
        if (volumes.length === 0 && get().volumes.length === 0) return;
        const numbered = volumes.slice(0, around.most).map((volume) => ({ ...volume, id: ++lastId }));
        set({ volumes: numbered, chosen: null, refusal: null });
      },
      toggleAll() {
        const { volumes } = get();
        const isAny = volumes.some(({ isOn }) => isOn);
        set({ volumes: volumes.map((volume) => ({ ...volume, isOn: !isAny })) });
      },
    };
  });
}
