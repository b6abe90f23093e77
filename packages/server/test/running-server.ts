/** A real server on a free port with a data folder of its own, for API tests. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import type { ProblemDetails } from '@gull-pane/protocol/problems';
import { configFromEnvironment } from '../src/config.ts';
import { startServer, type RunningServer } from '../src/server.ts';
import { TestDatabase } from './test-database.ts';

export class TestServer {
  private constructor(
    readonly dataFolder: string,
    private readonly database: TestDatabase | null,
    public running: RunningServer,
  ) {}

  /** On the embedded database, or on PostgreSQL where the tests run on that. */
  static async start(env: NodeJS.ProcessEnv = {}): Promise<TestServer> {
    const dataFolder = await mkdtemp(join(tmpdir(), 'gull-pane-api-'));
    const database = await TestDatabase.create();
    return new TestServer(dataFolder, database, await serve(dataFolder, { ...database?.env, ...env }));
  }

  async restart(): Promise<void> {
    await this.running.stop();
    this.running = await serve(this.dataFolder, this.database?.env);
  }

  async stop(): Promise<void> {
    await this.running.stop();
    await this.database?.drop();
    await rm(this.dataFolder, { recursive: true, force: true });
  }

  fetch(path: string, init: RequestInit = {}): Promise<Response> {
    return fetch(new URL(path, this.running.url), init);
  }

  async json<T>(path: string): Promise<T> {
    return (await this.fetch(path)).json() as Promise<T>;
  }

  upload(
    content: string | Uint8Array<ArrayBuffer>,
    name = 'Plan.svg',
    path = '/api/drawings',
    method = 'POST',
  ): Promise<Response> {
    const body = new FormData();
    body.append('file', new File([content], name));
    return this.fetch(path, { method, body });
  }

  /** Waits until a job has ended; the longer it takes, the more rarely it is asked: asking takes from its time. */
  async ended(jobId: string): Promise<JobDto> {
    for (let pauseMs = 20; ; pauseMs = Math.min(1.5 * pauseMs, 300)) {
      const job = await this.json<JobDto>(`/api/jobs/${jobId}`);
      if (hasEnded(job.state)) return job;
      await new Promise((resolve) => setTimeout(resolve, pauseMs));
    }
  }

  /** Imports a file and waits for it. */
  async import(
    content: string | Uint8Array<ArrayBuffer>,
    name?: string,
  ): Promise<{ job: JobDto; drawing: DrawingDto }> {
    const accepted = (await (await this.upload(content, name)).json()) as ImportAcceptedDto;
    const job = await this.ended(accepted.jobId);
    return { job, drawing: await this.json<DrawingDto>(`/api/drawings/${accepted.drawingId}`) };
  }
}

function serve(dataFolder: string, env: NodeJS.ProcessEnv = {}): Promise<RunningServer> {
  return startServer(configFromEnvironment({ PORT: '0', GULL_PANE_DATA: dataFolder, ...env }));
}

export const problemOf = async (response: Response): Promise<ProblemDetails> =>
  (await response.json()) as ProblemDetails;

/** A plan with a named layer, exact coordinates on the grid, one arc and one text. */
export const smallPlan = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="412600000 -7208400000 1000 1000" width="1000mm" height="1000mm">
<g id="Pipes" fill="none" stroke="#0E6F86" stroke-width="5">
<path d="M412600500.125 -7208400250.5h100v-50z"/>
<circle cx="412600500" cy="-7208400500" r="40"/>
</g>
<g id="Tags"><text x="412600510" y="-7208400260" font-size="25">KS-VA-0417</text></g>
</svg>`;
