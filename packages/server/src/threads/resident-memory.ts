import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';

const run = promisify(execFile);

/**
 * The memory of a process that lies in the machine's RAM, bytes: the script's heap, buffers and compiled code.
 * @returns null where it can't be asked, or the process has ended
 */
export async function residentBytes(pid: number): Promise<number | null> {
  try {
    if (process.platform === 'linux')
      return Number(/VmRSS:\s*(\d+) kB/.exec(await readFile(`/proc/${pid}/status`, 'utf8'))![1]) * 1024;
    if (process.platform === 'win32') return null;
    return Number((await run('ps', ['-o', 'rss=', '-p', String(pid)])).stdout) * 1024;
  } catch {
    return null;
  }
}
