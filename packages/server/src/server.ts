import type { AddressInfo } from 'node:net';
import { buildApp } from './app.ts';
import { Changes } from './changes.ts';
import type { ServerConfig } from './config.ts';
import { openDatabase } from './db/database.ts';
import { ImportJobs } from './jobs/import-jobs.ts';
import type { Services } from './plugins/services.ts';
import { StartError } from './start-error.ts';
import { takeDataFolder } from './storage/data-folder.ts';

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
 * Starts everything in order; what was begun is undone if a later part fails.
 * @throws StartError with one line for the person who started it
 */
export async function startServer(config: ServerConfig): Promise<RunningServer> {
  const undo: (() => Promise<unknown>)[] = [];
  const stop = async (): Promise<void> => {
    for (let step = undo.pop(); step; step = undo.pop()) await step();
  };
  try {
    const { folder, release } = await takeDataFolder(config.dataFolder);
    undo.push(release);
    const database = await openDatabase(folder.database);
    undo.push(() => database.close());
    const imports = new ImportJobs(database, folder, config.parallelImports, config.importLimits);
    const services: Services = {
      ...{ config, db: database.db, folder, imports, changes: new Changes() },
      isDatabaseAnswering: () => database.isAnswering(),
    };
    const routes: string[] = [];
    const app = await buildApp(services, (route) => routes.push(route));
    undo.push(() => app.close());
    await listen(() => app.listen({ host: config.host, port: config.port }), config);
    await imports.start();
    undo.push(() => imports.stop());
    const { port } = app.server.address() as AddressInfo;
    const host = config.host.includes(':') ? `[${config.host}]` : config.host;
    return { url: `http://${host}:${port}/`, services, routes, stop };
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
