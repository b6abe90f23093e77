import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { screenToWorld, worldToScreen } from '@gull-pane/core/camera/camera';
import type { Parts } from '../actions/action';
import type { Scene } from '../render/scene/scene';
import { THUMBNAIL } from '../trail/thumbnail-maker';
import { usePlanCamera, usePlanPicture } from './small-plan';
import './stance.css';

/** A small plan of the model with the place where one stands and looks from; a click moves there. */
export function StancePlan({
  target,
  scene,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'stance'>;
  readonly scene: Scene | null;
}): ReactElement | null {
  const isStanding = useStore(target.stance, (state) => state.walker !== null);
  return isStanding && scene ? <Plan target={target} scene={scene} /> : null;
}

function Plan({
  target,
  scene,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'stance'>;
  readonly scene: Scene;
}): ReactElement {
  const { stance } = target;
  const walker = useStore(stance, (state) => state.walker);
  const camera = usePlanCamera(target);
  const picture = usePlanPicture(target, scene, camera, 'stance-plan');
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
