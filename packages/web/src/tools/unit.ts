import type { ComponentType } from 'react';
import type { Sample } from '@gull-pane/core/intent/samples';
import type { Action, ActionTarget } from '../actions/action';
import type { Scene } from '../render/scene/scene';

/** What is most likely meant next: the first row of the short menu. */
export interface LikelyAct {
  readonly name: string;
  readonly keyName: string;
  run(): void;
}

export interface UnitProps {
  readonly target: ActionTarget;
}

export interface OverlayProps extends UnitProps {
  /** What the pane draws; null before it does. */
  readonly scene: Scene | null;
}

/**
 * A tool of the left button as the page knows it; its machine is in the core's `tools/`, by the same name. Its overlay
 * shows whenever it has something to show: a tool that is interrupted keeps its points.
 */
export interface ToolUnit {
  /** What is expected next and which keys help. */
  readonly Prompt: ComponentType<UnitProps>;
  readonly Overlay?: ComponentType<OverlayProps>;
  nextAct(target: ActionTarget): LikelyAct;
}

export const putAway = (target: ActionTarget, name = 'Put the tool away'): LikelyAct => byKey(target, name, 'escape');

/** What a key does to the tool in hand. */
export function byKey(target: ActionTarget, name: string, type: 'enter' | 'escape'): LikelyAct {
  const { pane, tools } = target;
  return {
    name,
    keyName: type === 'enter' ? 'Enter' : 'Escape',
    run() {
      const { camera, viewport } = pane.getState();
      const hands = { actOf: () => undefined, percentPerNotch: 20, isWheelReversed: false, hasTool: true };
      const sample: Sample = { type, timeMs: performance.now() };
      const intents = tools.getState().feed(sample, { camera, viewport, snap: null, hands });
      for (const intent of intents) pane.getState().apply(intent, sample.timeMs);
    },
  };
}

export const byAction = (target: ActionTarget, action: Action): LikelyAct => ({
  name: action.name,
  keyName: action.keys[0]!,
  run: () => action.run(target),
});
