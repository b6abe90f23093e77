import { Button } from 'antd';
import { Grid2x2, PanelsTopLeft, Undo2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { readyTilings } from '@gull-pane/core/panes/ready-tilings';
import { areasOf, panesOf, type Tiling } from '@gull-pane/core/panes/tiling';
import type { ActionTarget } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { planAndModelAction, planWithElevationsAction, undoPanesAction } from '../actions/pane-actions';
import type { Session } from '../session/session';
import { KeptArrangements } from './kept-arrangements';
import './panes.css';

/** How panes lie side by side: arrangements that are ready, and those that were kept. */
export function PanesPanel({
  session,
  target,
}: {
  readonly session: Session;
  readonly target: ActionTarget;
}): ReactElement {
  const { panes } = target;
  const tiling = useStore(panes, (state) => state.tiling);
  const canUndo = useStore(panes, (state) => state.canUndo);
  const isModel = useStore(target.drawing, ({ drawing }) => drawing.kind === 'solid');
  return (
    <div className="panes-panel">
      <section aria-label="Ready arrangements">
        <div className="ready-tilings">
          {readyTilings.map(({ name, tiling: ready }) => (
            <ActionTip key={name} name={name} sentence={sentenceFor(ready, tiling)} placement="right">
              <button
                type="button"
                className="ready-tiling"
                aria-label={name}
                aria-pressed={isLikeness(ready, tiling)}
                onClick={() => panes.getState().lay(ready)}
              >
                <TilingPicture tiling={ready} />
              </button>
            </ActionTip>
          ))}
        </div>
        <div className="panes-panel-row">
          <ActionTip {...planAndModelAction} actionId={planAndModelAction.id} placement="bottom">
            <Button
              size="small"
              icon={<PanelsTopLeft size={14} aria-hidden />}
              onClick={() => planAndModelAction.run(target)}
            >
              {planAndModelAction.name}
            </Button>
          </ActionTip>
          {isModel && (
            <ActionTip {...planWithElevationsAction} actionId={planWithElevationsAction.id} placement="bottom">
              <Button
                size="small"
                icon={<Grid2x2 size={14} aria-hidden />}
                onClick={() => planWithElevationsAction.run(target)}
              >
                {planWithElevationsAction.name}
              </Button>
            </ActionTip>
          )}
          <ActionTip {...undoPanesAction} actionId={undoPanesAction.id} placement="bottom">
            <Button
              size="small"
              icon={<Undo2 size={14} aria-hidden />}
              disabled={!canUndo}
              onClick={() => undoPanesAction.run(target)}
            >
              Undo
            </Button>
          </ActionTip>
        </div>
      </section>
      <KeptArrangements session={session} target={target} />
    </div>
  );
}

function sentenceFor(ready: Tiling, now: Tiling): string {
  const [wanted, had] = [panesOf(ready).length, panesOf(now).length];
  if (wanted < had) return `Closes ${had - wanted}; the active pane stays.`;
  if (wanted > had)
    return `${had === 1 ? 'The pane stays' : 'All panes stay'}; new ones show what the active one does.`;
  return 'Lays the panes that are there.';
}

/** Whether two tilings are laid the same way, wherever their dividers stand. */
function isLikeness(one: Tiling, other: Tiling): boolean {
  if ('pane' in one || 'pane' in other) return 'pane' in one && 'pane' in other;
  return (
    one.along === other.along &&
    one.parts.length === other.parts.length &&
    one.parts.every((part, k) => isLikeness(part, other.parts[k]!))
  );
}

/** A tiling drawn small. It is laid out large, where its gaps are thin, and scaled down. */
function TilingPicture({ tiling }: { readonly tiling: Tiling }): ReactElement {
  const [width, height] = [1600, 1000];
  const areas = [...areasOf(tiling, { x: 0, y: 0, width, height })];
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="tiling-picture" aria-hidden>
      {areas.map(([pane, area]) => (
        <rect
          key={pane}
          x={area.x + 30}
          y={area.y + 30}
          width={Math.max(area.width - 60, 1)}
          height={Math.max(area.height - 60, 1)}
          rx={30}
        />
      ))}
    </svg>
  );
}
