import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Intent } from '@gull-pane/core/intent/intents';
import type { Sample } from '@gull-pane/core/intent/samples';
import type { Snap } from '@gull-pane/core/snap/snap';
import { distanceTool, type DistanceState } from '@gull-pane/core/tools/distance';
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
  readonly distance: DistanceState;
  readonly orbit: OrbitState;
  readonly stand: StandState;
  readonly section: FaceState;
  readonly faceBox: FaceState;
  /** Not a tool to take in hand: what the left button does while none is. */
  readonly pick: PickState;
}
export type ToolId = Exclude<keyof ToolStates, 'pick'>;

export const machines: { readonly [Id in keyof ToolStates]: Tool<ToolStates[Id]> } = {
  ...{
    frame: frameCornersTool,
    lens: lensTool,
    level: levelLineTool,
    distance: distanceTool,
    orbit: orbitTool,
    stand: standTool,
    section: faceTool('section'),
    faceBox: faceTool('box'),
    pick: pickTool,
  },
};

/** Tools that only move the view: they interrupt the one at work and give the hand back to it. */
const moving: ReadonlySet<ToolId> = new Set(['frame', 'lens', 'level', 'orbit', 'stand', 'section', 'faceBox']);

export interface ToolState {
  /** The tool at work: it keeps its points whatever the view does. */
  readonly working: ToolId | null;
  /** A tool that moves the view and has interrupted it. */
  readonly interrupting: ToolId | null;
  /** What a held key borrows. */
  readonly borrowed: string | null;
  readonly states: ToolStates;
  /** The pane that the tool in hand was used in last. */
  readonly inPane: string | null;
  /** What the cursor is drawn to. */
  readonly snap: Snap | null;
  /** Takes a tool in hand, or puts it away if it is. */
  toggle(tool: ToolId): void;
  leave(): void;
  borrow(act: string | null): void;
  setSnap(snap: Snap | null): void;
  setRatio(ratio: number): void;
  /** Lets the tool in hand see a sample. @returns what it wants of the view */
  feed(sample: Sample, view: ToolView): readonly Intent[];
  /** A hand is over a pane now, whatever of an earlier one still waits for its snap. */
  readonly enter: (pane: string) => void;
  /** Points of tools are forgotten: another drawing is worked in, which has places of its own. */
  readonly forgetPoints: () => void;
}

export type ToolStore = StoreApi<ToolState>;

const fresh = (): ToolStates => ({
  frame: frameCornersTool.initial,
  lens: lensTool.initial,
  level: levelLineTool.initial,
  distance: distanceTool.initial,
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

/** Whether a next point is waited for. */
export function isPending(state: ToolState): boolean {
  const tool = leftButtonFor(state);
  const { isPending: asks } = machines[tool] as Tool<ToolStates[keyof ToolStates]>;
  return asks(state.states[tool]);
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
      interrupting: null,
      borrowed: null,
      states: fresh(),
      snap: null,
      inPane: null,
      toggle(tool) {
        const { working, interrupting } = get();
        if (tool === interrupting || (tool === working && interrupting === null)) get().leave();
        else if (moving.has(tool)) set({ interrupting: tool, states: forget(tool), snap: null });
        else set({ working: tool, interrupting: null, states: forget(tool), snap: null });
      },
      leave() {
        const { working, interrupting } = get();
        if (interrupting) set({ interrupting: null, states: forget(interrupting), snap: null });
        else if (working) set({ working: null, states: forget(working), snap: null });
      },
      borrow(borrowed) {
        set({ borrowed });
      },
      setSnap(snap) {
        if (get().snap !== snap) set({ snap });
      },
      setRatio(ratio) {
        const { states } = get();
        set({ states: { ...states, lens: { ...states.lens, ratio } } });
      },
      forgetPoints() {
        const { lens } = get().states;
        set({ states: { ...fresh(), lens: { ...lens, at: null } }, snap: null });
      },
      enter(pane) {
        if (get().inPane !== pane) set({ inPane: pane });
      },
      feed(sample, view) {
        const tool = leftButtonFor(get());
        const { state, intents } = stepOf(tool, get().states, sample, view);
        if (state !== get().states[tool]) set({ states: { ...get().states, [tool]: state } });
        if (intents.some(({ kind }) => kind === 'leaveTool')) get().leave();
        return intents;
      },
    };
  });
}

const stepOf = <Id extends keyof ToolStates>(id: Id, states: ToolStates, sample: Sample, view: ToolView) =>
  (machines[id] as Tool<ToolStates[Id]>).step(states[id], sample, view);
