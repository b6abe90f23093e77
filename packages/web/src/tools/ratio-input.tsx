import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { lensRatio } from '@gull-pane/core/camera/lens';
import { readNumber } from '@gull-pane/core/typed/typed-number';
import { FigureField } from '../controls/figure-field';
import type { ToolStore } from '../store/tool-store';

/** How much the lens enlarges, typed. */
export function RatioInput({ tools }: { readonly tools: ToolStore }): ReactElement {
  const ratio = useStore(tools, ({ states }) => states.lens.ratio);
  return (
    <FigureField
      className="ratio-input"
      label="Enlargement of the lens"
      min={lensRatio.min}
      max={lensRatio.max}
      step={0.5}
      value={Number(ratio.toFixed(2))}
      read={(text) => readNumber(text.replace(/\s*[×x]$/, ''))}
      suffix="×"
      onSet={(value) => tools.getState().setRatio(value)}
    />
  );
}
