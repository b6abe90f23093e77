import { Play, Presentation, Route } from 'lucide-react';
import type { Action } from './action';

export const toursAction: Action<'ui'> = {
  id: 'tours',
  name: 'Tours',
  sentence: 'Opens or closes the bar in which views are arranged in time and played.',
  keys: ['F10'],
  icon: Route,
  run({ ui }) {
    const own = ui.getState();
    own.set({ hasTourBar: !own.hasTourBar });
  },
  isOn: ({ ui }) => ui.getState().hasTourBar,
};

export const playTourAction: Action<'player'> = {
  id: 'play-tour',
  name: 'Play the tour',
  sentence: 'Plays or pauses the open tour in this pane; moving the view pauses it, too.',
  keys: ['F3'],
  icon: Play,
  run: ({ player }) => player.getState().toggle(),
  isEnabled: ({ player }) => (player.getState().plan?.stops.length ?? 0) > 0,
  isOn: ({ player }) => player.getState().isPlaying,
};

export const presentAction: Action<'player' | 'ui'> = {
  id: 'present',
  name: 'Present the tour',
  sentence: 'Fills the screen with the drawing and a caption; keys and a presenter’s remote go from stop to stop.',
  keys: ['Shift+F3'],
  icon: Presentation,
  run: ({ ui }) => ui.getState().set({ presenting: 'title' }),
  isEnabled: ({ player }) => (player.getState().plan?.stops.length ?? 0) > 0,
};

export const tourActions: readonly Action[] = [toursAction, playTourAction, presentAction];
