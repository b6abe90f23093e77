import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldToScreen, type ScreenPoint } from '@gull-pane/core/camera/camera';
import type { Parts } from '../actions/action';
import { api } from '../api/client';
import { exactText, grouped } from '../basics/figures';
import type { ObjectFacts } from '../picking/pick-questions';
import { toolInHand } from '../store/tool-store';
import { BesideTag } from './beside-tag';

const noBox = { pressed: null, to: null };

/** What picking shows over the drawing: the box with both its counts, and what is under the cursor. */
export function PickOverlay({
  target,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'picks' | 'tools'>;
}): ReactElement | null {
  const { tools, pane, picks } = target;
  const isIdle = useStore(tools, (state) => toolInHand(state) === null && state.borrowed === null);
  const [id] = useState(() => pane.getState().id);
  const { pressed, to } = useStore(tools, (state) => (state.inPane === id ? state.states.pick : noBox));
  const camera = useStore(pane, (state) => state.camera);
  const viewport = useStore(pane, (state) => state.viewport);
  const cursor = useStore(pane, (state) => state.cursor);
  const isMoving = useStore(pane, (state) => state.isFlying || state.scrubAt !== null || state.pivot !== null);
  useEffect(() => {
    if (pressed && to) picks.getState().count(pressed.corner, to);
  }, [picks, pressed, to, camera]);
  useEffect(() => {
    picks.getState().hover(isIdle && !to && !isMoving ? cursor : null);
  }, [picks, isIdle, to, isMoving, cursor, camera]);
  const hovered = useStore(picks, (state) => state.hovered);
  if (!isIdle) return null;
  if (pressed && to) return <PickBox target={target} from={worldToScreen(camera, viewport, pressed.corner)} to={to} />;
  return hovered && cursor && !isMoving ? <HoverTag target={target} facts={hovered} at={cursor} /> : null;
}

function PickBox({
  target,
  from,
  to,
}: {
  readonly target: Parts<'pane' | 'picks'>;
  readonly from: ScreenPoint;
  readonly to: ScreenPoint;
}): ReactElement {
  const takes = useStore(target.picks, (state) => state.boxTakes);
  const counts = useStore(target.picks, (state) => state.counts);
  const viewport = useStore(target.pane, (state) => state.viewport);
  const place = {
    left: Math.min(from.x, to.x),
    top: Math.min(from.y, to.y),
    width: Math.abs(from.x - to.x),
    height: Math.abs(from.y - to.y),
  };
  return (
    <>
      <div className="pick-box" data-takes={takes} style={place} />
      <BesideTag at={to} viewport={viewport} label="Box">
        <span data-chosen={takes === 'inside'}>
          inside <b className="figures">{counts ? grouped(counts.inside) : '…'}</b>
        </span>
        <span data-chosen={takes === 'touched'}>
          touched <b className="figures">{counts ? grouped(counts.touched) : '…'}</b>
        </span>
      </BesideTag>
    </>
  );
}

function HoverTag({
  target,
  facts,
  at,
}: {
  readonly target: Parts<'pane' | 'drawing'>;
  readonly facts: ObjectFacts;
  readonly at: ScreenPoint;
}): ReactElement {
  const { layers, drawing } = useStore(target.drawing);
  const viewport = useStore(target.pane, (state) => state.viewport);
  const text = useTextOf(drawing.id, facts);
  const unit = drawing.unit === 'none' ? '' : ` ${drawing.unit}`;
  return (
    <BesideTag at={at} viewport={viewport} className="hover-tag" label="Under the cursor">
      <strong>{text ?? facts.name ?? facts.kind}</strong>
      <span>
        {layers.find(({ id }) => id === facts.layer)?.name ?? 'no layer'}
        {facts.kind !== 'text' && facts.length !== null && (
          <>
            {' · '}
            <span className="figures">
              {exactText(Math.round(facts.length * 1000) / 1000)}
              {unit}
            </span>
          </>
        )}
      </span>
    </BesideTag>
  );
}

/** What a text says; null while it isn't known, and for what is no text. */
function useTextOf(drawingId: string, { kind, object }: ObjectFacts): string | null {
  const [known, setKnown] = useState<{ object: number; text: string } | null>(null);
  useEffect(() => {
    if (kind !== 'text') return undefined;
    let isCurrent = true;
    api.object(drawingId, object).then(
      ({ text }) => {
        if (isCurrent && text) setKnown({ object, text: text.text });
      },
      () => undefined,
    );
    return () => {
      isCurrent = false;
    };
  }, [drawingId, kind, object]);
  return known?.object === object ? `“${known.text}”` : null;
}
