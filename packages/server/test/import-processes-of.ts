import { readFileSync, readdirSync } from 'node:fs';

/** The processes in which this server's imports run; none where the system doesn't tell. */
export function importProcesses(): number[] {
  if (process.platform !== 'linux') return [];
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        const [command = '', stat = ''] = ['cmdline', 'stat'].map((file) =>
          readFileSync(`/proc/${pid}/${file}`, 'utf8'),
        );
        return command.includes('import-process') && stat.split(') ')[1]!.split(' ')[1] === String(process.pid);
      } catch {
        return false; // it has ended
      }
    })
    .map(Number);
}
