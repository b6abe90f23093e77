/** What all API tests begin with: the built product, whose threads the server under test runs. */
import { join } from 'node:path';
import { build, root } from '../../../scripts/set-up.mjs';

/** @public named in vitest.config.ts */
export default function prepare(): void {
  build();
  process.env.GULL_PANE_BUILT_THREADS = join(root, 'packages', 'server', 'dist');
}
