import { partsOf, type Input } from '@gull-pane/core/intent/inputs';
import { keyCaps } from '../actions/keys';

/** An input in plain text, as it is searched and read aloud. */
export function wordsOfInput(input: Input): string {
  return [...keyCaps(input), partsOf(input).words].filter((part) => part !== '').join(' ');
}
