import { useStore } from 'zustand';
import { collectableOf } from '@gull-pane/core/tools/collectables';
import { laterWhen } from '../../controls/later';
import { collectingNow } from '../../store/tool-store';
import { CollectPrompt } from '../later-parts';
import { byKey, putAway, type LikelyAct, type ToolUnit, type UnitProps } from '../unit';

const Overlay = laterWhen(
  async () => (await import('../collect-overlay')).CollectOverlay,
  ({ target }: UnitProps) => useStore(target.tools, collectingNow) !== null,
);

export const collectUnit: ToolUnit = {
  Prompt: CollectPrompt,
  Overlay,
  nextAct(target): LikelyAct {
    const { collecting, states } = target.tools.getState();
    const { least, most, name, group } = collectableOf(collecting);
    const { points, isDone } = states.collect;
    if (points.length === 0) return putAway(target);
    if (isDone) return byKey(target, 'Clear the measurement', 'escape');
    if (points.length < least || points.length >= most) return byKey(target, 'Take the point back', 'escape');
    return byKey(target, `Finish the ${group === 'measure' ? 'measurement' : name.toLowerCase()}`, 'enter');
  },
};
