import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { usePreferences } from '../store/preferences-store';
import { lensCamera } from '@gull-pane/core/camera/lens';
import type { Parts } from '../actions/action';
import type { Scene } from '../render/scene/scene';
import { Stage } from '../render/stage';
import { toolInHand } from '../store/tool-store';
import { shownDecimals } from '../basics/decimals';

/** Diameter of the lens, CSS px. */
const LENS_PX = 260;

interface LensViewProps {
  readonly target: Parts<'pane' | 'tools'>;
  readonly scene: Scene | null;
}

/** The lens at the cursor, while it is in hand: drawn from the tiles of its own scale. */
export function LensView({ target, scene }: LensViewProps): ReactElement | null {
  const { pane, tools } = target;
  const isOn = useStore(tools, (state) => toolInHand(state) === 'lens');
  const cursor = useStore(pane, (state) => state.cursor);
  const ratio = useStore(tools, (state) => state.states.lens.ratio);
  if (!isOn || !cursor || !scene) return null;
  return (
    <div
      className="lens"
      role="img"
      aria-label={`Lens, ${ratioText(ratio)} enlarged`}
      style={{ left: cursor.x - LENS_PX / 2, top: cursor.y - LENS_PX / 2, width: LENS_PX, height: LENS_PX }}
    >
      <LensPicture target={target} scene={scene} />
      <span className="lens-cross" />
      <span className="lens-ratio figures">{ratioText(ratio)}</span>
    </div>
  );
}

const ratioText = (ratio: number): string =>
  shownDecimals(`${ratio >= 10 ? Math.round(ratio) : Number(ratio.toFixed(1))}×`);

function LensPicture({
  target,
  scene,
}: {
  readonly target: Parts<'pane' | 'tools'>;
  readonly scene: Scene;
}): ReactElement {
  const { pane, tools } = target;
  const lines = useRef<HTMLCanvasElement>(null);
  const letters = useRef<HTMLCanvasElement>(null);
  const [viewport] = useState({ widthPx: LENS_PX, heightPx: LENS_PX });
  useEffect(() => {
    const stage = new Stage(
      lines.current!,
      letters.current!,
      {
        id: `${pane.getState().id}/lens`,
        advance: () => false,
        view: () => {
          const { camera, viewport: around, cursor, limits, shown, atSurface } = pane.getState();
          const { look, kinds, hiddenLayers, clips } = shown;
          const at = cursor ?? { x: around.widthPx / 2, y: around.heightPx / 2 };
          const { ratio } = tools.getState().states.lens;
          return {
            camera: lensCamera(atSurface(camera, around, at), around, at, ratio, limits),
            viewport,
            look,
            kinds,
            hiddenLayers,
            clips,
            sheet: null,
            smoothEdges: usePreferences.getState().smoothEdges === 'automatic',
          };
        },
      },
      scene,
    );
    stage.resize(LENS_PX, LENS_PX, window.devicePixelRatio);
    const stops = [pane.subscribe(stage.wake), tools.subscribe(stage.wake), scene.onChange(stage.wake)];
    return () => {
      for (const stop of stops) stop();
      stage.dispose();
    };
  }, [pane, tools, scene, viewport]);
  return (
    <>
      <canvas ref={lines} aria-hidden />
      <canvas ref={letters} aria-hidden />
    </>
  );
}
