import { InputNumber } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { lensRatio } from '@gull-pane/core/camera/lens';
import type { ToolStore } from '../store/tool-store';

/** How much the lens enlarges, typed. */
export function RatioInput({ tools }: { readonly tools: ToolStore }): ReactElement {
  const ratio = useStore(tools, ({ states }) => states.lens.ratio);
  return (
    <InputNumber
      className="ratio-input"
      aria-label="Enlargement of the lens"
      size="small"
      min={lensRatio.min}
      max={lensRatio.max}
      step={0.5}
      value={Number(ratio.toFixed(2))}
      suffix="×"
      onChange={(value) => {
        if (value !== null) tools.getState().setRatio(value);
      }}
    />
  );
}
