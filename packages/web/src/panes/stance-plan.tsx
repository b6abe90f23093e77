import { useEffect, useMemo, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { planCamera, screenToWorld, worldToScreen, type Camera } from '@gull-pane/core/camera/camera';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import type { ActionTarget } from '../actions/action';
import { allLooks } from '../render/pane-view';
import type { Scene } from '../render/scene';
import { THUMBNAIL, ThumbnailMaker } from '../trail/thumbnail-maker';
import './stance.css';

/** A small plan of the model with the place where one stands and looks from; a click moves there. */
export function StancePlan({
  target,
  scene,
}: {
  readonly target: ActionTarget;
  readonly scene: Scene | null;
}): ReactElement | null {
  const isStanding = useStore(target.stance, (state) => state.walker !== null);
  return isStanding && scene ? <Plan target={target} scene={scene} /> : null;
}

function Plan({ target, scene }: { readonly target: ActionTarget; readonly scene: Scene }): ReactElement {
  const { stance, pane, drawing } = target;
  const walker = useStore(stance, (state) => state.walker);
  const camera = useMemo<Camera>(() => {
    const { limits } = pane.getState();
    const support = drawing.getState().layers.flatMap((layer) => layer.support);
    return fitSupport(planCamera({ x: 0, y: 0, z: 0 }, 1), THUMBNAIL, support, limits);
  }, [pane, drawing]);
  const picture = usePlanPicture(target, scene, camera);
  if (!walker) return <></>;
  const { x, y } = worldToScreen(camera, THUMBNAIL, walker.feet);
  const degrees = (walker.bearingRad * 180) / Math.PI;
  return (
    <button
      type="button"
      className="stance-plan"
      aria-label="Plan: a click moves you there"
      onClick={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        const at = { x: event.clientX - box.left - 1, y: event.clientY - box.top - 1 };
        stance.getState().moveTo(screenToWorld(camera, THUMBNAIL, at));
      }}
    >
      {picture !== undefined && <img src={picture} width={THUMBNAIL.widthPx} height={THUMBNAIL.heightPx} alt="" />}
      <svg width={THUMBNAIL.widthPx} height={THUMBNAIL.heightPx} aria-hidden>
        <g transform={`translate(${x} ${y}) rotate(${degrees})`}>
          <path className="stance-sight" d="M0 0L-16 -30A34 34 0 0 1 16 -30Z" />
          <circle r={4.5} />
        </g>
      </svg>
    </button>
  );
}

/** The picture of the model from straight above. */
function usePlanPicture({ pane, drawing }: ActionTarget, scene: Scene, camera: Camera): string | undefined {
  const [picture, setPicture] = useState<string>();
  useEffect(() => {
    const maker = new ThumbnailMaker(
      scene,
      'stance-plan',
      () => !pane.getState().isFlying,
      () => ({ hidden: drawing.getState().hidden, looks: allLooks, look: 'shaded', clips: [], sheet: null }),
    );
    const stop = maker.onMade(() => setPicture(maker.of(camera)));
    maker.want([{ camera, viewport: THUMBNAIL }]);
    return () => {
      stop();
      maker.dispose();
    };
  }, [pane, drawing, scene, camera]);
  return picture;
}
