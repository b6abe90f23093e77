import { BoxSelect, Combine, Copy, Focus, Layers2, ListX, Replace, SquareStack } from 'lucide-react';
import { withLayers } from '@gull-pane/core/view/shown';
import type { Action, Parts } from './action';

const hasPicks = ({ picked }: Parts<'picked'>): boolean => picked.getState().picked.size > 0;

export const framePickedAction: Action<'picked' | 'picks' | 'tools'> = {
  id: 'frame-picked',
  name: 'Frame picked',
  sentence: 'Zooms so that the selection fills the pane; with nothing selected, frames what you pick next.',
  keys: ['f'],
  icon: Focus,
  run(target) {
    const { framePicked, frameNext, framesNext } = target.picks.getState();
    if (hasPicks(target)) framePicked();
    else {
      target.tools.getState().leave();
      frameNext(!framesNext);
    }
  },
  isOn: ({ picks }) => picks.getState().framesNext,
};

const like = (by: 'kind' | 'layer' | 'others', action: Omit<Action, 'run' | 'isEnabled'>): Action => ({
  ...action,
  run: ({ picks }) => picks.getState().pickLike(by),
  isEnabled: hasPicks,
});

export const sameKindAction = like('kind', {
  id: 'pick-same-kind',
  name: 'Same kind',
  sentence: 'Picks every shown object of the kinds that are picked.',
  keys: ['Shift+k'],
  icon: Copy,
});
export const sameLayerAction = like('layer', {
  id: 'pick-same-layer',
  name: 'Same layer',
  sentence: 'Picks every shown object on the layers of what is picked.',
  keys: ['Shift+l'],
  icon: Layers2,
});
export const otherPicksAction = like('others', {
  id: 'pick-others',
  name: 'All others',
  sentence: 'Inverts the selection among the objects shown.',
  keys: ['Shift+i'],
  icon: Replace,
});

export const nextUnderAction: Action<'picked' | 'picks'> = {
  id: 'pick-next-under',
  name: 'Next one here',
  sentence: 'Cycles through the objects that lie on top of each other where you clicked.',
  keys: ['n'],
  icon: SquareStack,
  run: ({ picks }) => picks.getState().next(),
  isEnabled: hasPicks,
};

export const onlyThisLayerAction: Action<'pane' | 'drawing' | 'picked' | 'picks'> = {
  id: 'only-these-layers',
  name: 'Only these layers',
  sentence: 'Hides every layer except those of the selection.',
  keys: ['Shift+o'],
  icon: Combine,
  run(target) {
    void target.picks
      .getState()
      .layersOfPicked()
      .then((layers) => {
        const others = target.drawing
          .getState()
          .layers.map(({ id }) => id)
          .filter((id) => !layers.has(id));
        target.pane.getState().update((shown) => withLayers(withLayers(shown, others, false), layers, true), 'layers');
      });
  },
  isEnabled: hasPicks,
};

export const boxTakesAction: Action<'picks'> = {
  id: 'box-takes',
  name: 'Box takes',
  sentence: 'Switches what a box picks: only what lies wholly inside, or whatever it touches.',
  keys: ['x'],
  icon: BoxSelect,
  run({ picks }) {
    const { boxTakes, setBoxTakes } = picks.getState();
    setBoxTakes(boxTakes === 'inside' ? 'touched' : 'inside');
  },
};

export const clearPicksAction: Action<'picked' | 'picks'> = {
  id: 'clear-picks',
  name: 'Clear picks',
  sentence: 'Clears the selection.',
  keys: ['Shift+x'],
  icon: ListX,
  run: ({ picks }) => picks.getState().clear(),
  isEnabled: hasPicks,
};
