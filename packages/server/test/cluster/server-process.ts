import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from '../../../../scripts/set-up.mjs';

/** One server of a cluster: a process of the built product, with a data folder that outlives it. */
export class ServerProcess {
  url = '';
  kills = 0;
  /** The last words of each time that it ended by itself. */
  readonly crashes: string[] = [];
  #child: ChildProcess | null = null;

  private constructor(
    readonly name: string,
    private readonly folder: string,
    private readonly env: NodeJS.ProcessEnv,
  ) {}

  static async start(name: string, env: NodeJS.ProcessEnv): Promise<ServerProcess> {
    const folder = await mkdtemp(join(tmpdir(), `gull-pane-${name}-`));
    const server = new ServerProcess(name, folder, env);
    await server.start();
    return server;
  }

  async start(): Promise<void> {
    const child = spawn(process.execPath, [join(root, 'packages/server/dist/main.js')], {
      env: { ...process.env, PORT: '0', GULL_PANE_DATA: this.folder, ...this.env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.#child = child;
    let said = '';
    this.url = await new Promise<string>((resolve, reject) => {
      const hear = (chunk: Buffer): void => {
        said = (said + String(chunk)).slice(-4_000);
        const ready = /Gull Pane is ready: (\S+)/.exec(said);
        if (ready) resolve(ready[1]!);
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.once('exit', () => {
        if (this.#child === child) this.crashes.push(said);
      });
      child.once('exit', () => reject(new Error(`${this.name} doesn’t start:\n${said}`)));
    });
  }

  /** Ends it without any warning, and starts it again: its supervisor would do that. */
  async killAndRestart(): Promise<void> {
    this.kills++;
    await this.#end('SIGKILL');
    await this.start();
  }

  async stop(): Promise<void> {
    await this.#end('SIGTERM');
    await rm(this.folder, { recursive: true, force: true });
  }

  async #end(signal: NodeJS.Signals): Promise<void> {
    const child = this.#child;
    this.#child = null;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = once(child, 'exit');
    child.kill(signal);
    await ended;
  }
}
