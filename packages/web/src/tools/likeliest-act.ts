import { canGoBack } from '@gull-pane/core/trail/trail';
import type { ActionTarget } from '../actions/action';
import { framePickedAction } from '../actions/pick-actions';
import { backAction, fitAllAction } from '../actions/view-actions';
import { collectableOf } from '@gull-pane/core/tools/collectables';
import type { Sample } from '@gull-pane/core/intent/samples';
import { toolInHand, type ToolStates } from '../store/tool-store';

/** What is most likely meant next: the first row of the short menu. */
export interface LikelyAct {
  readonly name: string;
  readonly keyName: string;
  run(): void;
}

export function likeliestAct(target: ActionTarget, { frame, level, collect }: ToolStates): LikelyAct {
  const { pane, tools } = target;
  const inHand = toolInHand(tools.getState());
  const say = (type: 'enter' | 'escape') => () => {
    const { camera, viewport } = pane.getState();
    const hands = { actOf: () => undefined, percentPerNotch: 20, isWheelReversed: false, hasTool: true };
    const sample: Sample = { type, timeMs: performance.now() };
    const intents = tools.getState().feed(sample, { camera, viewport, snap: null, hands });
    for (const intent of intents) pane.getState().apply(intent, sample.timeMs);
  };
  const leave = { name: 'Put the tool away', keyName: 'Escape', run: say('escape') };
  switch (inHand) {
    case 'collect': {
      const { least, most, name, group } = collectableOf(tools.getState().collecting);
      if (collect.points.length === 0) return leave;
      if (collect.isDone) return { name: 'Clear the measurement', keyName: 'Escape', run: say('escape') };
      return collect.points.length >= least && collect.points.length < most
        ? {
            name: `Finish the ${group === 'measure' ? 'measurement' : name.toLowerCase()}`,
            keyName: 'Enter',
            run: say('enter'),
          }
        : { name: 'Take the point back', keyName: 'Escape', run: say('escape') };
    }
    case 'frame':
      return frame.corner ? { name: 'Take the corner back', keyName: 'Escape', run: say('escape') } : leave;
    case 'level':
      return level.from ? { name: 'Take the point back', keyName: 'Escape', run: say('escape') } : leave;
    case 'lens':
    case 'orbit':
    case 'section':
    case 'faceBox':
      return leave;
    case 'stand':
      return target.stance.getState().walker ? { ...leave, name: 'Leave the stance' } : leave;
    case null: {
      const hasPicks = target.picks.getState().picked.size > 0;
      const action = hasPicks ? framePickedAction : canGoBack(pane.getState().trail) ? backAction : fitAllAction;
      return { name: action.name, keyName: action.keys[0]!, run: () => action.run(target) };
    }
  }
}
