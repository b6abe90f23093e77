import { pruned } from '@gull-pane/core/trail/trail';
import { closePane, panesOf } from '@gull-pane/core/panes/tiling';
import { readDto } from '@gull-pane/protocol/dto';
import { ArrangedDto, MOST_VIEWS_OF_A_PANE, type ArrangedPaneDto } from '@gull-pane/protocol/arrangements';
import type { ActionTarget, Parts } from '../actions/action';
import { cameraFromDto, cameraToDto } from '../wire/camera-dto';
import { trailFromDto, trailToDto } from '../store/keep-trail';
import { keptInHistory } from '../store/page-place';
import { shownFromDto, shownToDto } from '../wire/view-dto';
import type { PanesState } from '../store/panes-store';
import { destinationOf } from './follow-ties';
import type { DrawingContent } from '../store/drawing-store';
import { shownInNewPane, type PaneStart } from './pane-target';

/** What a pane shows, and how, as it is kept. */
export function arrangedPane(id: string, target: Parts<'pane' | 'drawing'>): ArrangedPaneDto {
  const { viewport, shown, isLocked, drifts, turnsAlone, orbitMode, trail, dial } = target.pane.getState();
  const drawing = target.drawing.getState();
  return {
    pane: id,
    drawingId: drawing.drawing.id,
    camera: cameraToDto(destinationOf(target)),
    // a pane that wasn't laid out yet has no size
    widthPx: Math.max(viewport.widthPx, 1),
    heightPx: Math.max(viewport.heightPx, 1),
    shows: shownToDto(shown, drawing),
    isLocked,
    drifts,
    turnsAlone,
    orbitMode,
    ...(dial ? { dial } : {}),
    trail: trailToDto(pruned(trail, MOST_VIEWS_OF_A_PANE), drawing),
  };
}

/** How all panes lie and what they show, as it is kept. */
export function arrangedNow(
  { tiling, ties, active }: PanesState,
  targetOf: (pane: string) => ActionTarget | undefined,
): ArrangedDto {
  const panes = panesOf(tiling);
  return {
    tiling,
    active,
    panes: panes.flatMap((pane) => {
      const target = targetOf(pane);
      return target ? [arrangedPane(pane, target)] : [];
    }),
    ties: ties
      .filter(({ one, other }) => panes.includes(one) && panes.includes(other))
      .map(({ one, other, place, scale, direction }) => ({ one, other, place, scale, direction })),
  };
}

/** What a kept pane of a drawing begins with. */
export function startOf(
  { camera, widthPx, heightPx, shows, trail }: ArrangedPaneDto,
  content: DrawingContent,
): PaneStart {
  const shown = shownFromDto(shows, content, shownInNewPane(content));
  const kept = trailFromDto(trail, content, shown);
  return { camera: cameraFromDto(camera), size: { widthPx, heightPx }, shown, ...(kept ? { trail: kept } : {}) };
}

/** Gives a pane that was just made the habits that are kept of it. */
export function dressAs({ pane }: Parts<'pane'>, arranged: Omit<ArrangedPaneDto, 'shows'>): void {
  const { isLocked, drifts, turnsAlone, orbitMode, dial } = arranged;
  const { setLocked, setDrifts, setTurnsAlone, setOrbitMode, setDial } = pane.getState();
  setLocked(isLocked);
  setDrifts(drifts);
  setTurnsAlone(turnsAlone);
  setOrbitMode(orbitMode);
  setDial(dial ?? null);
}

/** An arrangement without the panes whose drawings can't be loaded; null if none is left. */
export function withoutPanes(arranged: ArrangedDto, isThere: (drawingId: string) => boolean): ArrangedDto | null {
  const panes = arranged.panes.filter(({ drawingId }) => isThere(drawingId));
  const names = new Set(panes.map(({ pane }) => pane));
  const tiling = panesOf(arranged.tiling).reduce<ArrangedDto['tiling'] | null>(
    (rest, pane) => (rest === null || names.has(pane) ? rest : closePane(rest, pane)),
    arranged.tiling,
  );
  const [first] = panes;
  if (!tiling || !first) return null;
  return {
    tiling,
    panes,
    ties: arranged.ties.filter(({ one, other }) => names.has(one) && names.has(other)),
    active: names.has(arranged.active) ? arranged.active : first.pane,
  };
}

/** How the panes lay when this page was left or reloaded; null if that isn't known. */
export function keptLayout(): ArrangedDto | null {
  const kept = keptInHistory();
  if (kept === undefined) return null;
  try {
    return readDto(ArrangedDto, kept);
  } catch {
    return null; // of another version
  }
}
