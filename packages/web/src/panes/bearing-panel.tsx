import { Button, InputNumber } from 'antd';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { bearingOf, twistTo } from '@gull-pane/core/camera/twist';
import type { ActionTarget } from '../actions/action';
import { levelLineAction } from '../actions/tool-actions';
import { quarterLeftAction, quarterRightAction, squareUpAction } from '../actions/twist-actions';

/** Twists by a typed bearing, by quarters, or back to north. */
export function BearingPanel({ target }: { readonly target: ActionTarget }): ReactElement {
  const bearing = useStore(target.pane, ({ camera }) => bearingOf(camera));
  const [typed, setTyped] = useState<number | null>(Number(((bearing * 180) / Math.PI).toFixed(4)));
  const go = (): void => {
    if (typed !== null) target.pane.getState().travel((from) => twistTo(from, (typed * Math.PI) / 180));
  };
  return (
    <div className="foot-panel">
      <label>
        Bearing at the top
        <InputNumber
          aria-label="Bearing at the top"
          value={typed}
          suffix="°"
          autoFocus
          onChange={(value) => setTyped(value)}
          onPressEnter={go}
        />
      </label>
      <Button type="primary" onClick={go}>
        Twist
      </Button>
      <div className="foot-panel-row">
        {[quarterLeftAction, quarterRightAction, levelLineAction, squareUpAction].map((action) => (
          <Button key={action.id} size="small" onClick={() => action.run(target)}>
            {action.name}
          </Button>
        ))}
      </div>
    </div>
  );
}
