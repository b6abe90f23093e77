/** What a picture has to do: it moves, it lacks things, or its edges are to become smooth. */
export type Work = 'moving' | 'filling' | 'smoothing' | 'idle';

/** After a frame that moved, pictures at rest wait so long for the next one, ms. */
const YIELD_MS = 120;
/** Whoever hasn't asked for so long doesn't want its turn any more, ms. */
const STALE_MS = 200;

/**
 * Who draws when several panes want to: one that moves always may; while any does, pictures at rest wait. Of those at
 * rest one works at a time, what lacks things before what is only to become smooth.
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

  /** Somebody has done all that there was, or is gone. */
  leave(who: Who): void {
    if (this.#holder?.who === who) this.#holder = null;
    if (this.#moved?.who === who) this.#moved = null;
  }
}
