import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { expect, it } from 'vitest';

const main = resolve('packages/server/dist/main.js');

function run(
  args: readonly string[],
  cwd = process.cwd(),
  own: NodeJS.ProcessEnv = {},
): { code: number | null; out: string; err: string } {
  const { PORT: _port, ...env } = process.env;
  const { status, stdout, stderr } = spawnSync(process.execPath, [main, ...args], {
    cwd,
    env: { ...env, ...own },
    encoding: 'utf8',
  });
  return { code: status, out: stdout, err: stderr };
}

it('tells its version and its settings, and starts nothing', () => {
  expect(run(['--version'])).toEqual({ code: 0, out: '0.1.0\n', err: '' });
  const { code, out } = run(['--help']);
  expect(code).toBe(0);
  for (const setting of ['PORT', 'GULL_PANE_DATA', 'GULL_PANE_TOKEN', 'GULL_PANE_MAX_IMPORT_SECONDS'])
    expect(out).toContain(setting);
});

it('refuses an option that there isn’t in one line', () => {
  expect(run(['--prot', '4180'])).toMatchObject({
    code: 1,
    out: '',
    err: expect.stringMatching(/^[^\n]*--prot[^\n]*\n$/) as string,
  });
});

it('reads settings from a file .env in the working folder; those of the environment come first', () => {
  const folder = mkdtempSync(join(tmpdir(), 'gull-pane-env-'));
  writeFileSync(join(folder, '.env'), 'PORT=eighty\n');
  expect(run([], folder)).toMatchObject({
    code: 1,
    err: expect.stringContaining('PORT must be a whole number') as string,
  });
  expect(run([], folder, { PORT: 'ninety' })).toMatchObject({
    code: 1,
    err: expect.stringContaining('“ninety”') as string,
  });
  rmSync(folder, { recursive: true });
});
