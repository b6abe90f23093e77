import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import { KeyCaps } from '../../actions/action-tip';
import { byKey, putAway, type ToolUnit, type UnitProps } from '../unit';

function Prompt({ target: { tools } }: UnitProps): ReactElement {
  const hasCorner = useStore(tools, ({ states }) => states.frame.corner !== null);
  const isInterrupting = useStore(tools, ({ interrupting, working }) => interrupting !== null && working !== null);
  return hasCorner ? (
    <>
      Click the opposite corner; the wheel still zooms, the edge moves the view. <KeyCaps keyName="Escape" /> takes the
      first corner back.
    </>
  ) : (
    <>
      Click a corner of the area, or drag across it. <KeyCaps keyName="Escape" />{' '}
      {isInterrupting ? 'goes back to the tool.' : 'leaves.'}
    </>
  );
}

function Overlay({ target: { pane, tools } }: UnitProps): ReactElement | null {
  const [id] = useState(() => pane.getState().id);
  const isHere = useStore(tools, ({ inPane }) => inPane === null || inPane === id);
  const { corner, to } = useStore(tools, (state) => state.states.frame);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  if (!isHere || !corner || !to) return null;
  const from = worldToScreen(camera, viewport, corner);
  const place = {
    left: Math.min(from.x, to.x),
    top: Math.min(from.y, to.y),
    width: Math.abs(from.x - to.x),
    height: Math.abs(from.y - to.y),
  };
  return <div className="frame-overlay" style={place} />;
}

export const frameCornersUnit: ToolUnit = {
  Prompt,
  Overlay,
  nextAct: (target) =>
    target.tools.getState().states.frame.corner ? byKey(target, 'Take the corner back', 'escape') : putAway(target),
};
