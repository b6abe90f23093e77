import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen } from '@gull-pane/core/camera/camera';
import type { PaneStore } from '../store/pane-store';

/** The frame while its second corner is being chosen; its first corner keeps its place in the drawing. */
export function FrameOverlay({ pane }: { readonly pane: PaneStore }): ReactElement | null {
  const frame = useStore(pane, (state) => state.frame);
  const camera = useStore(pane, (state) => (state.frame ? state.camera : null));
  const viewport = useStore(pane, (state) => state.viewport);
  if (!frame || !camera) return null;
  const corner = worldToScreen(camera, viewport, frame.corner);
  const left = Math.min(corner.x, frame.to.x);
  const top = Math.min(corner.y, frame.to.y);
  const size = { width: Math.abs(corner.x - frame.to.x), height: Math.abs(corner.y - frame.to.y) };
  return <div className="frame-overlay" style={{ left, top, ...size }} />;
}
