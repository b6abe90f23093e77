import type { Camera } from '@gull-pane/core/camera/camera';
import type { Motion } from '@gull-pane/core/motion/motion';
import { pushMotion } from '@gull-pane/core/motion/push-motion';
import { edgePush } from '@gull-pane/core/intent/edge-push';
import { createFingerPointer } from '@gull-pane/core/intent/finger-pointer';
import type { Hands } from '@gull-pane/core/intent/hands';
import type { Intent } from '@gull-pane/core/intent/intents';
import { createNavigation } from '@gull-pane/core/intent/navigation';
import { planeByFace } from '@gull-pane/core/plane/work-plane';
import type { PointerSample, Sample } from '@gull-pane/core/intent/samples';
import type { Vec2 } from '@gull-pane/core/geometry/vec';
import type { Snap } from '@gull-pane/core/snap/snap';
import type { ToolView } from '@gull-pane/core/tools/tool';
import { actionById } from '../actions/all-actions';
import { bindingsInUse } from '../actions/bindings';
import { canRun, type ActionTarget } from '../actions/action';
import { collected } from '../marks/collected';
import { pickOrChoose } from '../marks/pick-or-choose';
import type { PickingIntent } from '../store/pick-store';
import type { StandingIntent } from '../store/stance-store';
import { placeUnder } from '../snapping/find-snaps';
import { usePreferences } from '../store/preferences-store';
import { layPlane } from '../store/lay-plane';
import { collectingNow, isPending, leftButtonFor, machineOf, toolInHand, wayInHand } from '../store/tool-store';

/**
 * What hands do over a pane, from samples to the stores: navigation has the first say, what it leaves goes to the tool
 * in hand. A tool that snaps sees a press only once its snap has been looked for, and all samples in their order.
 */
export class PaneHands {
  readonly #navigate: ReturnType<typeof createNavigation>;
  readonly #finger = createFingerPointer();
  #timer: number | undefined;
  #forTool: Promise<void> = Promise.resolve();
  #waiting = 0;
  #isHoldUsed = false;

  /** @param findSnaps all that the cursor may be drawn to at a place of the pane, CSS px, the likeliest first */
  constructor(
    private readonly target: ActionTarget,
    private readonly findSnaps: (at: Vec2) => Promise<readonly Snap[]>,
  ) {
    this.#navigate = createNavigation(() => this.#hands());
  }

  readonly feed = (sample: Sample): void => {
    if (sample.type === 'down' || sample.type === 'wheel') this.#isHoldUsed = true;
    if (sample.type === 'down' || sample.type === 'move' || sample.type === 'touch')
      this.target.tools.getState().enter(this.target.pane.getState().id);
    if (sample.type === 'down' || sample.type === 'wheel' || sample.type === 'touch' || sample.type === 'escape')
      this.target.pane.getState().endDrift();
    const tool = toolInHand(this.target.tools.getState());
    const isForTool =
      sample.type === 'wheel' && tool !== null && machineOf(tool, this.target.tools.getState()).takesWheel === true;
    let isTaken = false;
    if (!isForTool && sample.type !== 'digit') {
      const understood = this.#navigate(sample);
      isTaken = understood.isTaken;
      this.#apply(understood.intents, sample.timeMs);
      if (understood.deadlineMs !== undefined) this.#wakeAt(understood.deadlineMs);
    }
    if (sample.type === 'touch') {
      // a finger that moves pans while no tool is in hand: it draws no box
      for (const pointer of this.#finger(sample)) if (tool || pointer.type !== 'move') this.#feedTool(pointer);
    } else if (!isTaken && sample.type !== 'time' && sample.type !== 'hold') this.#feedTool(sample);
    if (sample.type === 'move') this.#watchEdge();
  };

  /** Whether digits are for the tool in hand. */
  readonly takesDigits = (): boolean => {
    const tool = toolInHand(this.target.tools.getState());
    return tool !== null && machineOf(tool, this.target.tools.getState()).takesDigits === true;
  };

  /** A key that borrows a movement goes down or, with null, up. @returns whether it was used meanwhile */
  hold(key: string | null, timeMs: number): boolean {
    const wasUsed = this.#isHoldUsed;
    this.#isHoldUsed = false;
    this.feed({ type: 'hold', key, timeMs });
    return wasUsed;
  }

  readonly stop = (): void => {
    window.clearTimeout(this.#timer);
    if (this.#push) this.target.pane.getState().endMotion(this.#push);
  };

  #hands(): Hands {
    const { percentPerNotch, isWheelReversed } = usePreferences.getState();
    const { acts } = bindingsInUse();
    const hasTool = toolInHand(this.target.tools.getState()) !== null;
    return { actOf: (input) => acts.get(input), percentPerNotch, isWheelReversed, hasTool };
  }

  #apply(intents: readonly Intent[], timeMs: number): void {
    const { pane, tools } = this.target;
    for (const intent of intents) {
      if (intent.kind === 'act') {
        const action = actionById.get(intent.id);
        if (action && canRun(action, this.target)) action.run(this.target, intent.at);
      } else if (intent.kind === 'borrow') tools.getState().borrow(intent.act);
      else if (isPicking(intent)) pickOrChoose(this.target, intent);
      else if (intent.kind === 'cutBy') this.target.clips.getState().cutBy(intent.use, intent.at);
      else if (intent.kind === 'collected') collected(this.target, intent.points);
      else if (isStanding(intent)) this.target.stance.getState().apply(intent);
      else pane.getState().apply(intent, timeMs);
    }
  }

  #feedTool(sample: Sample): void {
    const { tools } = this.target;
    if (this.#isForLook(sample)) return;
    if (sample.type === 'escape' && this.target.areas.getState().looking) {
      this.target.areas.getState().cancel();
      return;
    }
    this.#followFace(sample);
    const tool = leftButtonFor(tools.getState());
    const snaps = machineOf(tool, tools.getState()).snaps === true;
    if (!snaps && this.#waiting === 0) {
      this.#step(sample, null);
      return;
    }
    // moves needn't wait for their snap; what places a point does
    const places = sample.type === 'down' || sample.type === 'up';
    if (sample.type === 'move' && snaps) this.#lookForSnap(sample);
    if (!places && this.#waiting === 0) {
      this.#step(sample, tools.getState().snap);
      return;
    }
    this.#waiting++;
    this.#forTool = this.#forTool.then(async () => {
      const snap = places && snaps ? await this.#snapAt(sample) : null;
      this.#waiting--;
      this.#step(sample, snap);
    });
  }

  /** With Shift held, a click takes the look of what it hits over to new marks. @returns whether the sample was one */
  #isForLook(sample: Sample): boolean {
    if (sample.type === 'up' && this.#takesLook) {
      this.#takesLook = false;
      return true;
    }
    const drawing = wayInHand(this.target.tools.getState()) !== null;
    if (sample.type !== 'down' || sample.button !== 'left' || !drawing || sample.modifiers !== 'Shift+') return false;
    this.#takesLook = true;
    const at = { x: sample.x, y: sample.y };
    void import('../marks/take-over').then(({ takeOver }) => takeOver(this.target, at));
    return true;
  }
  #takesLook = false;

  /** With Ctrl held while points are placed, the work plane lies on the face under the cursor. */
  #followFace(sample: Sample): void {
    if (sample.type !== 'move' && sample.type !== 'down') return;
    const { tools, seen, pane } = this.target;
    if (sample.modifiers !== 'Ctrl+' || collectingNow(tools.getState()) === null || !seen.surface) return;
    const { camera, viewport } = pane.getState();
    const hit = seen.surface.hit(camera, viewport, { x: sample.x, y: sample.y });
    if (hit) layPlane(pane, planeByFace(hit.point, hit.normal));
  }

  #step(sample: Sample, snap: Snap | null): void {
    const { pane, tools } = this.target;
    const { camera, viewport } = pane.getState();
    const under = (at: Vec2) => placeUnder(this.target, at);
    const view: ToolView = { camera, viewport, snap, under, hands: this.#hands() };
    this.#apply(tools.getState().feed(sample, view), sample.timeMs);
  }

  /** What was chosen of several holds while the cursor stays. */
  async #snapAt({ x, y }: Vec2): Promise<Snap | null> {
    const { near, snap } = this.target.tools.getState();
    if (near?.at.x === x && near.at.y === y) return snap;
    const [first] = await this.findSnaps({ x, y });
    return first ?? null;
  }

  /** Of places that come faster than answers only the newest waits. */
  #lookForSnap({ x, y }: PointerSample): void {
    const isLooking = this.#lookAt !== null;
    this.#lookAt = { x, y };
    if (!isLooking) void this.#look();
  }
  #lookAt: Vec2 | null = null;

  async #look(): Promise<void> {
    for (let at = this.#lookAt; at; at = this.#lookAt === at ? null : this.#lookAt) {
      const snaps = await this.findSnaps(at).catch(() => []);
      const { cursor } = this.target.pane.getState();
      if (cursor?.x === at.x && cursor.y === at.y) this.target.tools.getState().setNear(snaps, at);
    }
    this.#lookAt = null;
  }

  #wakeAt(deadlineMs: number): void {
    window.clearTimeout(this.#timer);
    const wake = (): void => this.feed({ type: 'time', timeMs: performance.now() });
    this.#timer = window.setTimeout(wake, Math.max(deadlineMs - performance.now(), 0));
  }

  /** With a point pending, the pane moves on while the cursor is at its edge. */
  #watchEdge(): void {
    const { pane } = this.target;
    if (pane.getState().isFlying || !this.#edgeSpeed()) return;
    const focused = (camera: Camera): Camera => {
      const { cursor, viewport, atSurface } = pane.getState();
      return camera.projection === 'perspective' && cursor ? atSurface(camera, viewport, cursor) : camera;
    };
    this.#push = pushMotion(() => this.#edgeSpeed(), focused);
    pane.getState().move(this.#push);
  }
  #push: Motion | undefined;

  #edgeSpeed(): { x: number; y: number } | null {
    const { pane, tools } = this.target;
    const { cursor, viewport } = pane.getState();
    return cursor && isPending(tools.getState()) ? edgePush(cursor, viewport) : null;
  }
}

const isStanding = (intent: Intent): intent is StandingIntent =>
  intent.kind === 'stand' || intent.kind === 'tow' || intent.kind === 'towEnd' || intent.kind === 'pace';
const isPicking = (intent: Intent): intent is PickingIntent =>
  intent.kind === 'pick' || intent.kind === 'pickBox' || intent.kind === 'clearPicks';
