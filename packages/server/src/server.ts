import type { AddressInfo } from 'node:net';
import { buildApp } from './app.ts';
import { Changes } from './changes.ts';
import type { ServerConfig } from './config.ts';
import { openDatabase } from './db/database.ts';
import { openPostgres } from './db/postgres.ts';
import { Drain } from './drain.ts';
import { ImportJobs } from './jobs/import-jobs.ts';
import type { DataExchange, Services } from './plugins/services.ts';
import { StartError } from './start-error.ts';
import { takeDataFolder, tellHolder } from './storage/data-folder.ts';

export interface RunningServer {
  /** With a slash at the end. */
  readonly url: string;
  readonly services: Services;
  /** Every route below /api/, as “METHOD /path/{parameter}”. */
  readonly routes: readonly string[];
  /** Ends requests and imports, closes the database, gives the data folder back. */
  stop(): Promise<void>;
}

/**
 * Starts a server. It starts anew by itself where a backup is restored, at the same address.
 * @throws StartError with one line for the person who started it
 */
export async function startServer(config: ServerConfig): Promise<RunningServer> {
  let own = config;
  let restarting = Promise.resolve();
  const restart = ({ swap, undo }: DataExchange): void => {
    restarting = restarting.then(async () => {
      await running.stop();
      await swap();
      running = await startParts(own, restart).catch(async (error: unknown) => {
        console.error('The restored data can’t be served; what was there before is back.', error);
        await undo();
        return startParts(own, restart);
      });
    });
  };
  let running = await startParts(config, restart);
  own = { ...config, port: Number(new URL(running.url).port) };
  return {
    url: running.url,
    routes: running.routes,
    get services() {
      return running.services;
    },
    async stop() {
      await restarting;
      await running.stop();
    },
  };
}

/** Starts everything in order; what was begun is undone if a later part fails. */
async function startParts(config: ServerConfig, restart: Services['restart']): Promise<RunningServer> {
  const undo: (() => Promise<unknown>)[] = [];
  const stop = async (): Promise<void> => {
    for (let step = undo.pop(); step; step = undo.pop()) await step();
  };
  try {
    const { folder, release } = await takeDataFolder(config.dataFolder);
    undo.push(release);
    const { databaseUrl } = config;
    const database = databaseUrl === null ? await openDatabase(folder.database) : await openPostgres(databaseUrl);
    undo.push(() => database.close());
    const changes = new Changes(database.db);
    undo.push(() => changes.settled());
    const imports = new ImportJobs(database, folder, config.parallelImports, config.importLimits, config.keptRevisions);
    const services: Services = {
      config,
      db: database.db,
      folder,
      imports,
      changes,
      drain: new Drain(),
      isDatabaseAnswering: () => database.isAnswering(),
      dump: () => database.dump(),
      restart,
    };
    const routes: string[] = [];
    const app = await buildApp(services, (route) => routes.push(route));
    undo.push(() => app.close());
    await listen(() => app.listen({ host: config.host, port: config.port }), config);
    await imports.start();
    undo.push(() => imports.stop());
    const { port } = app.server.address() as AddressInfo;
    const host = config.host.includes(':') ? `[${config.host}]` : config.host;
    const url = `http://${host}:${port}/`;
    await tellHolder(folder, url);
    return { url, services, routes, stop };
  } catch (error) {
    await stop();
    throw error;
  }
}

async function listen(start: () => Promise<unknown>, { host, port }: ServerConfig): Promise<void> {
  try {
    await start();
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException;
    if (code === 'EADDRINUSE') throw new StartError(`Port ${port} on ${host} is taken. Set PORT to a free one.`);
    throw new StartError(`The server can’t listen on ${host}:${port} (${code ?? message}). Check HOST and PORT.`);
  }
}
