import { panesOf } from '@gull-pane/core/panes/tiling';
import { planCamera, sameCamera, worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { HOME_DIRECTION } from '@gull-pane/core/camera/directions';
import { orientationOf } from '@gull-pane/core/camera/orbit';
import { scaleDenominator } from '@gull-pane/core/camera/scale';
import type { Box3 } from '@gull-pane/core/geometry/box';
import type { BegunDrill, Drill, DrillScene, DrillState } from '@gull-pane/core/drills/drill';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { ActionTarget } from '../actions/action';
import { api } from '../api/client';
import { useNotes } from '../store/notes-store';
import { useWarmUp } from '../store/warm-up-store';
import { unitsOfScreenPx } from '../words/figure-style';
import type { Session } from './session';

/** The card in the upper right corner, with room beside it, CSS px. */
const CARD_PX = { width: 350, height: 230 } as const;
const MOST_BEGUN = 40;
/** Texts are looked for about so many places. */
const TRIES = 6;
/** Of so many objects the longest is followed. */
const LOOKED_AT = 3000;
/** So many of them are tried. */
const MOST_LINES = 24;
/** A line that is shorter than this share of the drawing isn't worth following. */
const SHORTEST_SHARE = 0.04;

/** Begins a drill in the active pane. */
export async function beginDrill(session: Session, drill: Drill): Promise<void> {
  const pane = session.panes.getState().active;
  const target = session.targetOf(pane);
  const { id, kind, extents, name } = target.drawing.getState().drawing;
  if (!extents) {
    useNotes.getState().tell('failed', `There is nothing in “${name}” to practise on.`);
    return;
  }
  const own = target.pane.getState();
  const { viewport } = own;
  const upright = planCamera(own.camera.target, own.camera.unitsPerPx);
  const turned = kind === 'solid' ? { ...upright, orientation: orientationOf(HOME_DIRECTION) } : upright;
  const whole = own.fitted(turned, viewport);
  const scene = { extents, whole, viewport, random: Math.random };
  const tag = drill.id === 'find-tag' ? await tagIn(session, pane, scene) : null;
  const beginWith = (line: DrillScene['line']): BegunDrill | null => drill.begin({ ...scene, tag, line });
  let begun: BegunDrill | null = null;
  if (drill.id === 'follow-line') {
    for await (const line of longLinesIn(session, pane, scene)) {
      begun = beginWith(line);
      if (begun?.marked.every((box) => isClear(box, whole, viewport)) === true) break;
    }
  } else {
    begun = beginWith(null);
    // what is marked isn't begun under the card that tells the goal
    for (let k = 0; k < MOST_BEGUN && begun?.marked.some((box) => isUnderCard(box, whole, viewport)); k++)
      begun = beginWith(null);
  }
  if (!begun) {
    useNotes.getState().tell('failed', `“${name}” has nothing for this drill.`);
    return;
  }
  target.tools.getState().leave();
  own.follow(whole, 'jump');
  if (!sameCamera(begun.camera, whole)) own.follow(begun.camera, 'jump');
  useWarmUp.getState().begin({ drill, begun, pane, drawing: id, beganMs: performance.now(), reached: 0, acts: 0 });
}

/** Whether a square's middle lies where the card does, or too near to it. */
function isUnderCard({ min, max }: Box3, camera: Camera, viewport: Viewport): boolean {
  const middle = { x: (min.x + max.x) / 2, y: (min.y + max.y) / 2, z: (min.z + max.z) / 2 };
  const { x, y } = worldToScreen(camera, viewport, middle);
  return x > viewport.widthPx - CARD_PX.width && y < CARD_PX.height;
}

async function tagIn(
  session: Session,
  pane: string,
  { extents: { min, max } }: Pick<DrillScene, 'extents'>,
): Promise<DrillScene['tag']> {
  const { found } = session.openOf(pane);
  const radius = Math.max(max.x - min.x, max.y - min.y) / 12;
  for (let k = 0; k < TRIES; k++) {
    const at = { x: min.x + Math.random() * (max.x - min.x), y: min.y + Math.random() * (max.y - min.y) };
    const text = await found.nearestText(at, radius).catch(() => null);
    if (text === null) continue;
    const [first] = await found.find(text, 1).catch(() => []);
    const [place] = first?.places ?? [];
    if (first?.places.length === 1 && place) return { text: first.content, at: { x: place.x, y: place.y, z: 0 } };
  }
  return null;
}

/** Whether all of a square can be pressed: it lies in the pane and not under the card. */
function isClear({ min, max }: Box3, camera: Camera, viewport: Viewport): boolean {
  const z = (min.z + max.z) / 2;
  return [min.x, max.x].every((x) =>
    [min.y, max.y].every((y) => {
      const seen = worldToScreen(camera, viewport, { x, y, z });
      const isInside = seen.x >= 0 && seen.y >= 0 && seen.x <= viewport.widthPx && seen.y <= viewport.heightPx;
      return isInside && (seen.x <= viewport.widthPx - CARD_PX.width || seen.y >= CARD_PX.height);
    }),
  );
}

/** Long lines of a plan, the longest of some objects that are looked at first; the corners of each. */
async function* longLinesIn(
  session: Session,
  pane: string,
  { extents: { min, max } }: Pick<DrillScene, 'extents'>,
): AsyncGenerator<readonly Vec3[]> {
  const { drawing, picking } = session.openOf(pane);
  const { id, counts } = drawing.getState().drawing;
  const objects = Array.from({ length: LOOKED_AT }, () => Math.floor(Math.random() * counts.objects));
  const nothing = { layers: [], objects: null };
  const entries = await picking.ask(nothing, 'entriesOf', { objects: [...new Set(objects)] });
  const facts = await picking.ask(nothing, 'facts', { entries, withLength: true });
  const least = SHORTEST_SHARE * Math.max(max.x - min.x, max.y - min.y);
  const lines = facts
    .flatMap(({ kind, length, object }) =>
      (kind === 'line' || kind === 'polyline') && length !== null && length >= least ? [{ object, length }] : [],
    )
    .sort((a, b) => b.length - a.length);
  for (const { object } of lines.slice(0, MOST_LINES)) {
    const { segments = [] } = await api.object(id, object);
    const corners: Vec3[] = [];
    for (const { from, to } of segments) {
      if (corners.length === 0) corners.push({ x: from[0], y: from[1], z: 0 });
      corners.push({ x: to[0], y: to[1], z: 0 });
    }
    if (corners.length > 1) yield corners;
  }
}

/** Watches the hands while a drill is on. @returns what ends it */
export function watchDrill(session: Session): () => void {
  let watched: (() => void) | null = null;
  const stop = (): void => {
    watched?.();
    watched = null;
  };
  const watch = (pane: string): void => {
    const target = session.targetOf(pane);
    const look = (): void => {
      const { running, move, finish } = useWarmUp.getState();
      const { isFlying, scrubAt } = target.pane.getState();
      if (!running || isFlying || scrubAt !== null) return;
      const reached = running.begun.reached(stateOf(session, target), running.reached);
      if (reached !== running.reached) move({ reached });
      if (reached >= running.begun.steps) finish(performance.now(), new Date().toISOString());
    };
    const act = (): void => {
      const { running, move } = useWarmUp.getState();
      if (running) move({ acts: running.acts + 1 });
    };
    const ends = [
      target.pane.subscribe(({ trail }, { trail: before }) => {
        // what a hand does in one go is one step of the trail, and one act
        if (trail.entries.length !== before.entries.length || trail.current !== before.current) act();
        look();
      }),
      session.panes.subscribe(({ tiling }, { tiling: before }) => {
        if (tiling !== before) act();
        look();
      }),
    ];
    ends.push(
      target.tools.subscribe(({ states }, { states: before }) => {
        if (states.collect.points === before.collect.points) return;
        if (states.collect.points.length > 0) act();
        look();
      }),
    );
    watched = () => {
      for (const end of ends) end();
    };
  };
  const end = useWarmUp.subscribe(({ running }, { running: before }) => {
    if (running?.pane === before?.pane && (running === null) === (before === null)) return;
    stop();
    if (running) watch(running.pane);
  });
  return () => {
    end();
    stop();
  };
}

function stateOf(session: Session, { pane, drawing, tools }: ActionTarget): DrillState {
  const { camera, viewport } = pane.getState();
  const cameras: Camera[] = panesOf(session.panes.getState().tiling).map(
    (id) => session.targetOf(id).pane.getState().camera,
  );
  const alike = cameras.filter(
    ({ target, unitsPerPx }) =>
      unitsPerPx === camera.unitsPerPx && target.x === camera.target.x && target.y === camera.target.y,
  );
  return {
    camera,
    viewport,
    scaleDenominator: scaleDenominator(camera, unitsOfScreenPx(drawing)),
    panes: cameras.length,
    areTwoAlike: alike.length > 1,
    points: tools.getState().states.collect.points,
  };
}
