import type { Intent, Recogniser } from './intents.ts';
import type { Sample } from './samples.ts';

/** What was understood of a sample, and when a time sample is wanted, if anything waits for one. */
export interface Understood {
  readonly intents: readonly Intent[];
  readonly deadlineMs?: number;
}

/** A gesture with its memory. */
export type Watcher = (sample: Sample) => Understood;

/** Gives a recogniser its memory. */
export function watch<State>(recogniser: Recogniser<State, Sample>): Watcher {
  let state = recogniser.initial;
  return (sample) => {
    const result = recogniser.step(state, sample);
    state = result.state;
    return result;
  };
}

/** Several gestures that watch the same hand at once; their intents come in the order given. */
export function watchAll(watchers: readonly Watcher[]): Watcher {
  return (sample) => {
    const results = watchers.map((watcher) => watcher(sample));
    const intents = results.flatMap((result) => result.intents);
    const deadlines = results.flatMap(({ deadlineMs }) => (deadlineMs === undefined ? [] : [deadlineMs]));
    return deadlines.length > 0 ? { intents, deadlineMs: Math.min(...deadlines) } : { intents };
  };
}
