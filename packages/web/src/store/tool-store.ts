import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import type { Intent } from '@gull-pane/core/intent/intents';
import type { Sample } from '@gull-pane/core/intent/samples';
import type { Snap } from '@gull-pane/core/snap/snap';
import type { MarkWay } from '@gull-pane/core/marks/build';
import { collectableOf } from '@gull-pane/core/tools/collectables';
import type { CollectState } from '@gull-pane/core/tools/collect';
import type { Placed } from '@gull-pane/core/measure/placed';
import { faceTool, type FaceState } from '@gull-pane/core/tools/face';
import { frameCornersTool, type FrameState } from '@gull-pane/core/tools/frame-corners';
import { lensTool, type LensState } from '@gull-pane/core/tools/lens';
import { levelLineTool, type LevelState } from '@gull-pane/core/tools/level-line';
import { orbitTool, type OrbitState } from '@gull-pane/core/tools/orbit';
import { pickTool, type PickState } from '@gull-pane/core/tools/pick';
import { standTool, type StandState } from '@gull-pane/core/tools/stand';
import type { Tool, ToolView } from '@gull-pane/core/tools/tool';

/** What each tool remembers, by its id. */
export interface ToolStates {
  readonly frame: FrameState;
  readonly lens: LensState;
  readonly level: LevelState;
  /** Of what collects points: measuring, marking and so on. */
  readonly collect: CollectState;
  readonly orbit: OrbitState;
  readonly stand: StandState;
  readonly section: FaceState;
  readonly faceBox: FaceState;
  /** Not a tool to take in hand: what the left button does while none is. */
  readonly pick: PickState;
}
export type ToolId = Exclude<keyof ToolStates, 'pick'>;

const machines: { readonly [Id in Exclude<keyof ToolStates, 'collect'>]: Tool<ToolStates[Id]> } = {
  frame: frameCornersTool,
  lens: lensTool,
  level: levelLineTool,
  orbit: orbitTool,
  stand: standTool,
  section: faceTool('section'),
  faceBox: faceTool('box'),
  pick: pickTool,
};

/** Tools that only move the view: they interrupt the one at work and give the hand back to it. */
const moving: ReadonlySet<ToolId> = new Set(['frame', 'lens', 'level', 'orbit', 'stand', 'section', 'faceBox']);

/** Those that move the view once something was shown to them: they wait while another brings that into sight. */
const asking: ReadonlySet<ToolId> = new Set(['level', 'section', 'faceBox']);

export interface ToolState {
  /** The tool at work: it keeps its points whatever the view does. */
  readonly working: ToolId | null;
  /** A tool that moves the view and has interrupted it. */
  readonly interrupting: ToolId | null;
  /** One that was about to move the view and waits until another has. */
  readonly waiting: ToolId | null;
  /** What a held key borrows. */
  readonly borrowed: string | null;
  readonly states: ToolStates;
  /** The pane that the tool in hand was used in last. */
  readonly inPane: string | null;
  /** What collects points while `collect` is at work: an id of `collectables`. */
  readonly collecting: string;
  /** What the cursor is drawn to: the chosen one of those that are near. */
  readonly snap: Snap | null;
  /** All that are near, the likeliest first, and where the cursor was, CSS px. */
  readonly near: { readonly snaps: readonly Snap[]; readonly at: Vec2 } | null;

  /** Takes a tool in hand, or puts it away if it is. */
  toggle(tool: ToolId): void;
  leave(): void;
  borrow(act: string | null): void;
  /** Takes something in hand that collects points, or puts it away if it is. */
  readonly collect: (id: string) => void;
  /** Takes a point that was typed. @returns what it leads to */
  readonly place: (point: Placed) => readonly Intent[];
  readonly setNear: (snaps: readonly Snap[], at: Vec2) => void;
  /** Draws the cursor to the next place that is near. */
  readonly nextSnap: () => void;
  setRatio(ratio: number): void;
  /** Lets the tool in hand see a sample. @returns what it wants of the view */
  feed(sample: Sample, view: ToolView): readonly Intent[];
  /** A hand is over a pane now, whatever of an earlier one still waits for its snap. */
  readonly enter: (pane: string) => void;
  /** Points of tools are forgotten: another drawing is worked in, which has places of its own. */
  readonly forgetPoints: () => void;
}

export type ToolStore = StoreApi<ToolState>;

const noSnap = { snap: null, near: null };
const samePlace = (a: Snap, b: Snap): boolean =>
  a.point.x === b.point.x && a.point.y === b.point.y && a.point.z === b.point.z;

const fresh = (): ToolStates => ({
  frame: frameCornersTool.initial,
  lens: lensTool.initial,
  level: levelLineTool.initial,
  collect: { points: [], isDone: false, at: null, pressed: null },
  orbit: orbitTool.initial,
  stand: standTool.initial,
  section: machines.section.initial,
  faceBox: machines.faceBox.initial,
  pick: pickTool.initial,
});

/** The tool that the left button is for now. */
export function toolInHand({
  borrowed,
  interrupting,
  working,
}: Pick<ToolState, 'borrowed' | 'interrupting' | 'working'>): ToolId | null {
  return borrowed === 'lens' ? 'lens' : (interrupting ?? working);
}

/** What samples of the left button go to: the tool in hand, or picking. */
export const leftButtonFor = (state: ToolState): keyof ToolStates => toolInHand(state) ?? 'pick';

/** The machine of a tool. */
export const machineOf = (tool: keyof ToolStates, { collecting }: Pick<ToolState, 'collecting'>): AnyTool =>
  (tool === 'collect' ? collectableOf(collecting).tool : machines[tool]) as AnyTool;
type AnyTool = Tool<ToolStates[keyof ToolStates]>;

/** Whether a next point is waited for. */
export function isPending(state: ToolState): boolean {
  const tool = leftButtonFor(state);
  return machineOf(tool, state).isPending(state.states[tool]);
}

/** What collects points, if that is in hand. */
export const collectingNow = (state: ToolState): string | null =>
  toolInHand(state) === 'collect' ? state.collecting : null;

/** The kind of mark that is being drawn; null if none is. */
export function wayInHand(state: ToolState): MarkWay | null {
  const collecting = collectingNow(state);
  return collecting === null ? null : collectableOf(collecting).way;
}

/** Whether a face is asked for next: nothing else is looked for then. */
export function isFaceAsked(state: ToolState): boolean {
  const collecting = collectingNow(state);
  const { points, isDone } = state.states.collect;
  return collecting !== null && (isDone ? 0 : points.length) < (collectableOf(collecting).faces ?? 0);
}

/** Which tool is in hand, and what it remembers: one for all panes, so that a line may begin in one and end in another. */
export function createToolStore(): ToolStore {
  return createStore<ToolState>((set, get) => {
    const forget = (tool: ToolId): ToolStates => {
      const { states } = get();
      if (tool === 'lens') return { ...states, lens: { ...states.lens, at: null } };
      return { ...states, [tool]: fresh()[tool] };
    };
    return {
      working: null,
      collecting: 'distance',
      near: null,
      interrupting: null,
      waiting: null,
      borrowed: null,
      states: fresh(),
      snap: null,
      inPane: null,
      toggle(tool) {
        const { working, interrupting } = get();
        if (tool === interrupting || (tool === working && interrupting === null)) get().leave();
        else if (moving.has(tool)) {
          const waiting = interrupting && asking.has(interrupting) && !asking.has(tool) ? interrupting : null;
          set({ interrupting: tool, waiting, states: forget(tool), ...noSnap });
        } else set({ working: tool, interrupting: null, waiting: null, states: forget(tool), ...noSnap });
      },
      leave() {
        const { working, interrupting, waiting } = get();
        if (interrupting) set({ interrupting: waiting, waiting: null, states: forget(interrupting), ...noSnap });
        else if (working) set({ working: null, states: forget(working), ...noSnap });
      },
      borrow(borrowed) {
        set({ borrowed });
      },
      collect(id) {
        const { working, interrupting, collecting } = get();
        if (working === 'collect' && collecting === id && interrupting === null) get().leave();
        else {
          const states = { ...get().states, collect: fresh().collect };
          set({ working: 'collect', collecting: id, interrupting: null, waiting: null, states, ...noSnap });
        }
      },
      place(point) {
        const { states, collecting } = get();
        const { state, intents } = collectableOf(collecting).tool.add(states.collect, point);
        set({ states: { ...states, collect: state } });
        return intents;
      },
      setNear(snaps, at) {
        const { near, snap } = get();
        const isSame = near?.at.x === at.x && near.at.y === at.y;
        const kept = isSame && snap ? snaps.find((one) => one.kind === snap.kind && samePlace(one, snap)) : undefined;
        set({ near: { snaps, at }, snap: kept ?? snaps[0] ?? null });
      },
      nextSnap() {
        const { near, snap } = get();
        if (!near || near.snaps.length === 0) return;
        set({ snap: near.snaps[(near.snaps.findIndex((one) => one === snap) + 1) % near.snaps.length]! });
      },
      setRatio(ratio) {
        const { states } = get();
        set({ states: { ...states, lens: { ...states.lens, ratio } } });
      },
      forgetPoints() {
        const { lens } = get().states;
        set({ states: { ...fresh(), lens: { ...lens, at: null } }, ...noSnap });
      },
      enter(pane) {
        if (get().inPane !== pane) set({ inPane: pane });
      },
      feed(sample, view) {
        const tool = leftButtonFor(get());
        const { state, intents } = machineOf(tool, get()).step(get().states[tool], sample, view);
        if (state !== get().states[tool]) set({ states: { ...get().states, [tool]: state } });
        // what is borrowed is given back; the tool at work stays
        if (intents.some(({ kind }) => kind === 'leaveTool')) {
          if (get().borrowed === tool) set({ borrowed: null });
          else get().leave();
        }
        return intents;
      },
    };
  });
}
