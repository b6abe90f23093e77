import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { builtFile } from './built-file.ts';

/** Our processes, by the name of their file in the built server, with their source. */
const sources = { 'import-process': '../jobs/import-process.ts' } as const;

/** Space for young objects, MB: with more of it an import of ten million lines takes 60 MB more, and no less time. */
const YOUNG_MB = 8;

/**
 * Starts a process that takes and gives messages; what it prints on standard error is to be read from there.
 * @param maxHeapMb what its script's heap may take, MB
 */
export function startProcess(name: keyof typeof sources, maxHeapMb: number): ChildProcess {
  const built = builtFile(name);
  const source = fileURLToPath(new URL(sources[name], import.meta.url));
  return fork(built ?? source, {
    execArgv: [
      `--max-old-space-size=${maxHeapMb}`,
      `--max-semi-space-size=${YOUNG_MB}`,
      ...(built === null ? ['--import', 'tsx'] : []),
    ],
    serialization: 'advanced', // numbers stay typed arrays
    stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
  });
}
