import { oneStep, type Drill } from './drill.ts';

const scales = [20, 50, 100, 200, 500];

export const exactScale: Drill = {
  id: 'exact-scale',
  name: 'An exact scale',
  kind: 'any',
  fewest: 1,
  tip: 'Type it where you find: G, then 1:50, then Enter. The scale in the foot of the pane can be pressed, too.',
  begin({ whole, random }) {
    const scale = scales[Math.floor(random() * scales.length)]!;
    return oneStep(
      `Show the drawing at exactly 1:${scale}.`,
      whole,
      ({ scaleDenominator }) => Math.abs(scaleDenominator / scale - 1) < 1e-9,
    );
  },
};
