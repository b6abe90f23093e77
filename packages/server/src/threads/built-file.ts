import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/**
 * The built file of a thread or process of ours; null while the server runs from source. Tests run the server's source
 * with built threads (`GULL_PANE_BUILT_THREADS` names their folder): compiling them for each import takes seconds.
 */
export function builtFile(name: string): string | null {
  const folder = process.env.GULL_PANE_BUILT_THREADS;
  if (folder !== undefined) return join(folder, `${name}.js`);
  return import.meta.url.endsWith('.ts') ? null : fileURLToPath(new URL(`${name}.js`, import.meta.url));
}
