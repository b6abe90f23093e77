import { DtoError } from '@gull-pane/protocol/dto';
import { Problem } from '../problem.ts';

/**
 * Runs a reading of a request.
 * @throws Problem bad-request naming each field that doesn't keep to the protocol
 */
export function checked<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof DtoError) throw new Problem('bad-request', { detail: error.message });
    throw error;
  }
}
