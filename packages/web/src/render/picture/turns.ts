/** The kind of work that a picture has to do next. */
export type Work = 'moving' | 'filling' | 'smoothing' | 'idle';

/** After a moving frame, pictures at rest wait this long for the next one, ms. */
const YIELD_MS = 120;
/** A pane that hasn't asked for so long gives its turn up, ms. */
const STALE_MS = 200;

/**
 * Decides which pane draws next. A pane that moves always may draw; while any pane moves, pictures at rest wait. Of the
 * pictures at rest one works at a time: those that lack tiles come before those that only smooth their edges.
 */
export class Turns<Who> {
  #moved: { readonly who: Who; readonly atMs: number } | null = null;
  #holder: { readonly who: Who; readonly work: Work; readonly atMs: number } | null = null;

  /** @param nowMs one steady clock for all */
  mayDraw(who: Who, work: Work, nowMs: number): boolean {
    if (work === 'idle') return true;
    if (work === 'moving') {
      this.#moved = { who, atMs: nowMs };
      return true;
    }
    if (this.#moved && this.#moved.who !== who && nowMs - this.#moved.atMs < YIELD_MS) return false;
    const holder = this.#holder;
    const isFree = !holder || holder.who === who || nowMs - holder.atMs > STALE_MS;
    if (!isFree && !(work === 'filling' && holder.work === 'smoothing')) return false;
    this.#holder = { who, work, atMs: nowMs };
    return true;
  }

  /** A pane has finished its work, or is gone. */
  leave(who: Who): void {
    if (this.#holder?.who === who) this.#holder = null;
    if (this.#moved?.who === who) this.#moved = null;
  }
}
