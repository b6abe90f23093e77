import { readFileSync, readdirSync } from 'node:fs';

/** What all processes of the browser hold, bytes: shared memory counted once (proportional set size). */
export function browserMemory(): number {
  let sum = 0;
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      if (!/chromium/.test(readFileSync(`/proc/${pid}/cmdline`, 'utf8'))) continue;
      const [, kilobytes] = /^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8')) ?? [];
      sum += 1024 * Number(kilobytes ?? 0);
    } catch {
      // a process that has just ended
    }
  }
  return sum;
}
