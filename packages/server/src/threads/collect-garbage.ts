import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

/**
 * Frees what nothing holds any more. Left to itself the engine waits until much more has come together; worth its time
 * only where hundreds of megabytes have just been let go.
 */
export function collectGarbage(): void {
  setFlagsFromString('--expose-gc'); // holds for contexts that begin after it
  (runInNewContext('gc') as () => void)();
}
