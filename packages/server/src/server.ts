import type { AddressInfo } from 'node:net';
import { buildApp } from './app.ts';
import { Changes } from './changes.ts';
import type { ServerConfig } from './config.ts';
import { openDatabase } from './db/database.ts';
import { openPostgres } from './db/postgres.ts';
import { refuseOtherPlace } from './db/shared-settings.ts';
import { Drain } from './drain.ts';
import { ImportJobs } from './jobs/import-jobs.ts';
import { DrawingsRepository } from './plugins/drawings-repository.ts';
import type { DataExchange, Services } from './plugins/services.ts';
import { RemovedContents } from './revisions/removed-contents.ts';
import { StartError } from './start-error.ts';
import { Contents } from './storage/contents.ts';
import { takeDataFolder, tellHolder } from './storage/data-folder.ts';
import { openBlobs } from './storage/open-blobs.ts';
import { openPieces } from './storage/upload-pieces.ts';

/** How often files are looked for whose time is over, ms. */
const SWEEP_EVERY_MS = 10 * 60_000;

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
    const { folder, serverId, release } = await takeDataFolder(config.dataFolder);
    undo.push(release);
    const blobs = await openBlobs(config.blobs);
    const { databaseUrl } = config;
    const database = databaseUrl === null ? await openDatabase(folder.database) : await openPostgres(databaseUrl);
    undo.push(() => database.close());
    const { db, signals } = database;
    if (databaseUrl !== null) await refuseOtherPlace(db, blobs);
    const contents = new Contents(blobs, folder, config.copiedBytes);
    const removed = new RemovedContents(db, contents, config.keptRemovedHours);
    const changes = new Changes(db, signals);
    undo.push(() => changes.stop());
    const imports = new ImportJobs(
      { db, signals, contents, removed, serverId },
      {
        parallel: config.parallelImports,
        limits: config.importLimits,
        keptRevisions: config.keptRevisions,
        isWorker: config.roles.has('worker'),
      },
    );
    const drawings = new DrawingsRepository(db);
    imports.onImported = (id) => {
      const tell = async (): Promise<void> => changes.tell({ kind: 'drawing', drawing: await drawings.find(id) });
      tell().catch(() => undefined); // deleted in the meantime
    };
    const services: Services = {
      config,
      db,
      folder,
      blobs,
      contents,
      removed,
      pieces: await openPieces(config.blobs, blobs, folder),
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
    undo.push(sweepRegularly([() => removed.sweep(), () => contents.tidy(), () => imports.tidy()]));
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

/** @returns a function that ends it */
function sweepRegularly(sweeps: readonly (() => Promise<void>)[]): () => Promise<void> {
  // the next time finds what couldn't be removed this time
  const sweep = (): void => void Promise.allSettled(sweeps.map((one) => one()));
  sweep();
  const timer = setInterval(sweep, SWEEP_EVERY_MS);
  return () => {
    clearInterval(timer);
    return Promise.resolve();
  };
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
