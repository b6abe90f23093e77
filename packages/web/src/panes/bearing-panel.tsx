import { Button } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { bearingOf, twistTo } from '@gull-pane/core/camera/twist';
import { readBearing } from '@gull-pane/core/typed/typed-number';
import type { ActionTarget } from '../actions/action';
import { levelLineAction } from '../actions/tool-actions';
import { FigureField } from '../controls/figure-field';
import { quarterLeftAction, quarterRightAction, squareUpAction } from '../actions/twist-actions';

/** Twists by a typed bearing, by quarters, or back to north. */
export function BearingPanel({ target }: { readonly target: ActionTarget }): ReactElement {
  const bearing = useStore(target.pane, ({ camera }) => bearingOf(camera));
  const twist = (degrees: number): void =>
    target.pane.getState().travel((from) => twistTo(from, (degrees * Math.PI) / 180));
  return (
    <div className="foot-panel">
      <label>
        Bearing at the top
        <FigureField
          label="Bearing at the top"
          value={Number(((bearing * 180) / Math.PI).toFixed(4))}
          read={readBearing}
          suffix="°"
          autoFocus
          onSet={twist}
        />
      </label>
      <p className="muted">Degrees from north, or as N45E; Enter twists.</p>
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
