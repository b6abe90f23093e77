import { oneStep, type Drill } from './drill.ts';

export const twoPanes: Drill = {
  id: 'two-panes',
  name: 'Compare in two panes',
  kind: 'any',
  fewest: 1,
  tip: 'F2 splits the pane, and both show the same at once; F4 closes one again.',
  begin: ({ whole }) =>
    oneStep(
      'Show the same place at the same scale in two panes.',
      whole,
      ({ panes, areTwoAlike }) => panes > 1 && areTwoAlike,
    ),
};
