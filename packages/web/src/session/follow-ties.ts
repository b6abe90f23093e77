import { followed, type TiedView } from '@gull-pane/core/panes/tie';
import { currentCamera, type Trail } from '@gull-pane/core/trail/trail';
import type { PaneParts } from '../store/pane-parts';
import { tiesOf, type PanesStore, type Tie } from '../store/panes-store';

export const tiedView = ({ pane, drawing }: Pick<PaneParts, 'pane' | 'drawing'>): TiedView => {
  const { camera, viewport } = pane.getState();
  const { kind, extents } = drawing.getState().drawing;
  return { camera, viewport, kind, extents: extents ?? null };
};

/** Lets panes follow each other along their ties. */
export class TieFollower {
  #isFollowing = false;
  /** The trail of each pane when the others last took a step with it. */
  readonly #walked = new Map<string, Trail>();

  constructor(
    private readonly panes: PanesStore,
    private readonly partsOf: (pane: string) => PaneParts | undefined,
  ) {}

  /** Begins to watch a pane. @returns what ends it */
  watch(id: string): () => void {
    const own = this.partsOf(id);
    if (!own) return () => undefined;
    this.#walked.set(id, own.pane.getState().trail);
    return own.pane.subscribe((state, before) => {
      // a pane that was just laid out doesn't lead others
      if (before.viewport.widthPx === 0) {
        this.#walked.set(id, state.trail);
        return;
      }
      if (state.camera !== before.camera || state.trail !== before.trail || state.isFlying !== before.isFlying)
        this.#lead(id);
    });
  }

  /** The other pane of a new tie takes its view from the first. */
  begin({ one, other, ...holds }: Tie): void {
    this.#follow(one, other, holds, true);
    this.#lead(other);
  }

  #lead(leader: string): void {
    const own = this.partsOf(leader);
    if (!own || this.#isFollowing) return;
    const { trail, isFlying, scrubAt } = own.pane.getState();
    const ties = this.panes.getState().ties;
    if (ties.length === 0) return;
    // one step of the trail for all, once the leader has arrived
    const isStep = !isFlying && scrubAt === null && this.#walked.get(leader) !== trail;
    if (isStep) this.#walked.set(leader, trail);
    const reached = new Set([leader]);
    let last = [leader];
    while (last.length > 0) {
      const next: string[] = [];
      for (const from of last)
        for (const tie of tiesOf(ties, from)) {
          if (reached.has(tie.with)) continue;
          reached.add(tie.with);
          next.push(tie.with);
          this.#follow(from, tie.with, tie, isStep);
        }
      last = next;
    }
  }

  #follow(from: string, to: string, holds: Omit<Tie, 'one' | 'other'>, isStep: boolean): void {
    const [leader, follower] = [this.partsOf(from), this.partsOf(to)];
    if (!leader || !follower) return;
    const { limits, follow } = follower.pane.getState();
    const camera = followed(tiedView(leader), tiedView(follower), holds, limits);
    const { trail } = leader.pane.getState();
    this.#isFollowing = true;
    try {
      follow(camera, isStep ? trail.entries[trail.current]!.kind : null);
    } finally {
      this.#isFollowing = false;
    }
    this.#walked.set(to, follower.pane.getState().trail);
  }
}

/** Where a pane is on its way to, or is. */
export const destinationOf = ({ pane }: Pick<PaneParts, 'pane'>) => {
  const { isFlying, trail, camera } = pane.getState();
  return isFlying ? currentCamera(trail) : camera;
};
