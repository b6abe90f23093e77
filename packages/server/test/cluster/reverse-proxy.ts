/** A small reverse proxy: shares out requests to servers that are ready, and leaves out those that aren't. For tests. */
import { once } from 'node:events';
import { createServer, request as send, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

/** How often servers are asked whether they are ready, ms. */
const ASK_EVERY_MS = 250;

export class ReverseProxy {
  #next = 0;
  #ready: string[] = [];
  #timer: NodeJS.Timeout | undefined;

  private constructor(
    private readonly server: Server,
    /** Addresses of the servers; a server that was started again has another. */
    private readonly upstreams: () => readonly string[],
  ) {}

  static async start(upstreams: () => readonly string[]): Promise<ReverseProxy> {
    const server = createServer();
    const proxy = new ReverseProxy(server, upstreams);
    server.on('request', (request, response) => proxy.#pass(request, response));
    server.listen(0, '127.0.0.1');
    await once(server, 'listening');
    await proxy.#ask();
    proxy.#timer = setInterval(() => void proxy.#ask(), ASK_EVERY_MS);
    return proxy;
  }

  get url(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}/`;
  }

  async stop(): Promise<void> {
    clearInterval(this.#timer);
    this.server.closeAllConnections();
    this.server.close();
    await once(this.server, 'close');
  }

  async #ask(): Promise<void> {
    const urls = this.upstreams();
    const answers = await Promise.all(
      urls.map((url) =>
        fetch(new URL('api/ready', url), { signal: AbortSignal.timeout(5_000) }).then(
          ({ ok }) => ok,
          () => false,
        ),
      ),
    );
    this.#ready = urls.filter((_url, k) => answers[k]);
  }

  #pass(request: IncomingMessage, response: ServerResponse): void {
    const upstream = this.#ready[this.#next++ % Math.max(1, this.#ready.length)];
    if (upstream === undefined) {
      response.writeHead(502).end();
      return;
    }
    const { hostname, port } = new URL(upstream);
    const headers = { ...request.headers, 'x-forwarded-proto': 'http' };
    const passed = send({ hostname, port, path: request.url, method: request.method, headers }, (answer) => {
      response.writeHead(answer.statusCode ?? 502, answer.headers);
      answer.pipe(response);
      answer.on('error', () => response.destroy());
    });
    passed.on('error', () => {
      if (response.headersSent) response.destroy();
      else response.writeHead(502).end();
    });
    response.on('close', () => passed.destroy());
    request.pipe(passed);
  }
}
