import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { screenToWorld } from '@gull-pane/core/camera/camera';
import { formatScale, scaleDenominator } from '@gull-pane/core/camera/scale';
import { coordinateText } from '../pages/figures';
import type { DrawingStore } from '../store/drawing-store';
import type { PaneStore } from '../store/pane-store';

interface PaneFootProps {
  readonly drawing: DrawingStore;
  readonly pane: PaneStore;
}

/** The strip along a pane's lower edge: how one looks, at what scale, and where the cursor is. */
export function PaneFoot({ drawing, pane }: PaneFootProps): ReactElement {
  const scale = useStore(pane, (state) => formatScale(scaleDenominator(state.camera)));
  const { unit } = useStore(drawing, (state) => state.drawing);
  return (
    <footer className="pane-foot">
      <span className="foot-view">Plan, north up</span>
      <span className="figures" aria-label="Scale" title="Scale on a screen of 96 px to the inch">
        {scale}
      </span>
      <CursorPlace pane={pane} unit={unit} />
    </footer>
  );
}

function CursorPlace({ pane, unit }: { readonly pane: PaneStore; readonly unit: string }): ReactElement {
  const cursor = useStore(pane, (state) => state.cursor);
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const at = cursor ? screenToWorld(camera, viewport, cursor) : null;
  const write = (value: number): string => coordinateText(value, camera.unitsPerPx);
  return (
    <span className="foot-place figures" aria-label="Cursor">
      {at ? `E ${write(at.x)}  N ${write(at.y)}` : ''}
      {at && unit !== 'none' ? ` ${unit}` : ''}
    </span>
  );
}
