import type { Viewport } from '@gull-pane/core/camera/camera';
import type { PaneState, PaneStore } from './pane-state';
import type { PickedStore } from './picked-store';
import { usePreferences } from './preferences-store';
import { toolInHand, type ToolStore } from './tool-store';

/** In a pane smaller than this the dial would hide the drawing, CSS px: it opens only when it is asked for. */
const ROOM_FOR_DIAL = { widthPx: 420, heightPx: 360 } as const;
/** What the open dial takes of the pane's lower right corner, the distance to what is fitted included; CSS px. */
const DIAL_PX: Viewport = { widthPx: 278, heightPx: 208 };

export const hasRoomForDial = ({ widthPx, heightPx }: Viewport): boolean =>
  widthPx >= ROOM_FOR_DIAL.widthPx && heightPx >= ROOM_FOR_DIAL.heightPx;

/** What the dial makes way for. */
interface Work {
  readonly tools: ToolStore;
  readonly picked: PickedStore;
}

/** Orbiting is what the dial is for. */
export const makesWayFor = (tool: ReturnType<typeof toolInHand>): boolean => tool !== null && tool !== 'orbit';

/** Whether a tool is in hand or something is picked: then the dial is a compass, unless it is asked for. */
export const isWorking = ({ tools, picked }: Work): boolean =>
  makesWayFor(toolInHand(tools.getState())) || picked.getState().picked.size > 0;

/** Whether the dial is open in a pane. @param works whether a tool is in hand or something is picked */
export function isDialOpen({ dial, viewport }: Pick<PaneState, 'dial' | 'viewport'>, works: boolean): boolean {
  return dial === null ? usePreferences.getState().isDialOpen && hasRoomForDial(viewport) && !works : dial === 'open';
}

export const isDialOpenNow = ({ pane, ...work }: Work & { readonly pane: PaneStore }): boolean =>
  isDialOpen(pane.getState(), isWorking(work));

/** The size of the corner that the dial covers in a pane, if it is open there. */
export const coveredByDial = (state: Pick<PaneState, 'dial'>, viewport: Viewport, work: Work): Viewport | null =>
  isDialOpen({ ...state, viewport }, isWorking(work)) ? DIAL_PX : null;
