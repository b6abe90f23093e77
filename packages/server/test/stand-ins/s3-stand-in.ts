/** A small object store with S3's interface, in memory: requests must be signed, faults can be ordered. For tests. */
import { createHash, createHmac, randomUUID } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';

interface Stored {
  readonly content: Buffer;
  readonly changedAt: Date;
  readonly metadata: Readonly<Record<string, string>>;
}

interface MultipartUpload {
  readonly key: string;
  readonly metadata: Readonly<Record<string, string>>;
  readonly parts: Map<number, Buffer>;
}

export const KEYS = { id: 'KELPIE', secret: 'made-up-for-tests' } as const;
const REGION = 'us-east-1';
/** Items of a list in one answer: few, so that tests need a second page. */
const PAGE = 100;

export class S3StandIn {
  readonly objects = new Map<string, Stored>();
  readonly #uploads = new Map<string, MultipartUpload>();
  /** Faults that are still to come: a status to answer with, or a connection that breaks. */
  readonly #faults: (number | 'cut')[] = [];
  /** Requests that were refused since their signature was wrong. */
  refused = 0;
  requests = 0;

  private constructor(
    readonly bucket: string,
    private readonly server: Server,
  ) {}

  static async start(bucket = 'kelpie', port = 0): Promise<S3StandIn> {
    const server = createServer();
    const store = new S3StandIn(bucket, server);
    server.on('request', (request, response) => {
      store.#take(request, response).catch((error: unknown) => {
        if (!response.headersSent) send(response, 500, errorXml('InternalError', String(error)));
        else response.destroy();
      });
    });
    server.listen(port, '127.0.0.1');
    await once(server, 'listening');
    return store;
  }

  get endpoint(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  /** What a server under test needs in its environment. */
  env(prefix = ''): Record<string, string> {
    return {
      GULL_PANE_BLOBS: `s3://${this.bucket}/${prefix}`,
      GULL_PANE_S3_ENDPOINT: this.endpoint,
      AWS_ACCESS_KEY_ID: KEYS.id,
      AWS_SECRET_ACCESS_KEY: KEYS.secret,
      AWS_REGION: REGION,
    };
  }

  /** The next requests fail so. */
  fail(...faults: (number | 'cut')[]): void {
    this.#faults.push(...faults);
  }

  async stop(): Promise<void> {
    this.server.closeAllConnections();
    this.server.close();
    await once(this.server, 'close');
  }

  async #take(request: IncomingMessage, response: ServerResponse): Promise<unknown> {
    this.requests++;
    const url = new URL(request.url ?? '/', this.endpoint);
    const pieces: Buffer[] = [];
    const fault = this.#faults.shift();
    if (fault === 'cut') {
      return request.socket.destroy();
    }
    for await (const piece of request) pieces.push(piece as Buffer);
    const body = Buffer.concat(pieces);
    if (fault !== undefined) return send(response, fault, errorXml('SlowDown', 'ordered by a test'));
    if (!isSigned(request, url, body)) {
      this.refused++;
      return send(response, 403, errorXml('SignatureDoesNotMatch', 'The signature isn’t right.'));
    }
    const [, bucket = '', ...path] = url.pathname.split('/').map(decodeURIComponent);
    if (bucket !== this.bucket) return send(response, 404, errorXml('NoSuchBucket', bucket));
    return this.#answer({ request, response, query: url.searchParams, key: path.join('/'), body });
  }

  #answer({ request, response, query, key, body }: Asked): ServerResponse {
    const { method = 'GET' } = request;
    if (key === '') {
      if (method === 'HEAD') return send(response, 200);
      if (method === 'GET') return this.#list(response, query);
      if (method === 'POST' && query.has('delete')) return this.#removeAll(response, body);
      return send(response, 405, errorXml('MethodNotAllowed', method));
    }
    const uploadId = query.get('uploadId');
    if (method === 'POST' && query.has('uploads')) return this.#begin(response, key, metadataOf(request));
    if (uploadId !== null) return this.#multipart({ request, response, query, key, body }, uploadId);
    if (method === 'PUT') {
      this.objects.set(key, { content: body, changedAt: new Date(), metadata: metadataOf(request) });
      return send(response, 200, '', { etag: etagOf(body) });
    }
    if (method === 'DELETE') {
      this.objects.delete(key);
      return send(response, 204);
    }
    const found = this.objects.get(key);
    if (!found) return send(response, 404, method === 'HEAD' ? '' : errorXml('NoSuchKey', key));
    return this.#send(request, response, found);
  }

  #send(
    { method, headers }: IncomingMessage,
    response: ServerResponse,
    { content, changedAt, metadata }: Stored,
  ): ServerResponse {
    const all = {
      etag: etagOf(content),
      'last-modified': changedAt.toUTCString(),
      'content-type': 'application/octet-stream',
      ...Object.fromEntries(Object.entries(metadata).map(([name, value]) => [`x-amz-meta-${name}`, value])),
    };
    const [, from, to] = /^bytes=(\d+)-(\d*)$/.exec(headers.range ?? '') ?? [];
    if (from === undefined) {
      response.writeHead(200, { ...all, 'content-length': content.length });
      return response.end(method === 'HEAD' ? undefined : content);
    }
    const [start, end] = [Number(from), Math.min(to ? Number(to) : Infinity, content.length - 1)];
    if (start >= content.length) return send(response, 416, errorXml('InvalidRange', headers.range!));
    const part = content.subarray(start, end + 1);
    const range = `bytes ${start}-${end}/${content.length}`;
    response.writeHead(206, { ...all, 'content-length': part.length, 'content-range': range });
    return response.end(part);
  }

  #list(response: ServerResponse, query: URLSearchParams): ServerResponse {
    const prefix = query.get('prefix') ?? '';
    const after = query.get('continuation-token') ?? '';
    const keys = [...this.objects.keys()].filter((key) => key.startsWith(prefix) && key > after).sort();
    const page = keys.slice(0, PAGE);
    const contents = page.map((key) => {
      const { content, changedAt } = this.objects.get(key)!;
      return `<Contents><Key>${xml(key)}</Key><LastModified>${changedAt.toISOString()}</LastModified><ETag>${xml(etagOf(content))}</ETag><Size>${content.length}</Size></Contents>`;
    });
    const isCut = keys.length > page.length;
    const next = isCut ? `<NextContinuationToken>${xml(page.at(-1)!)}</NextContinuationToken>` : '';
    return send(
      response,
      200,
      `<ListBucketResult><IsTruncated>${isCut}</IsTruncated><KeyCount>${page.length}</KeyCount>${next}${contents.join('')}</ListBucketResult>`,
    );
  }

  #removeAll(response: ServerResponse, body: Buffer): ServerResponse {
    for (const [, key] of body.toString().matchAll(/<Key>([^<]*)<\/Key>/g)) this.objects.delete(plain(key!));
    return send(response, 200, '<DeleteResult></DeleteResult>');
  }

  #begin(response: ServerResponse, key: string, metadata: Readonly<Record<string, string>>): ServerResponse {
    const id = randomUUID();
    this.#uploads.set(id, { key, metadata, parts: new Map() });
    return send(
      response,
      200,
      `<InitiateMultipartUploadResult><Bucket>${this.bucket}</Bucket><Key>${xml(key)}</Key><UploadId>${id}</UploadId></InitiateMultipartUploadResult>`,
    );
  }

  #multipart({ request, response, query, key, body }: Asked, id: string): ServerResponse {
    const upload = this.#uploads.get(id);
    if (!upload || upload.key !== key) return send(response, 404, errorXml('NoSuchUpload', id));
    if (request.method === 'PUT') {
      upload.parts.set(Number(query.get('partNumber')), body);
      return send(response, 200, '', { etag: etagOf(body) });
    }
    if (request.method === 'DELETE') {
      this.#uploads.delete(id);
      return send(response, 204);
    }
    const parts = [...upload.parts].sort(([a], [b]) => a - b);
    if (request.method === 'GET') {
      const listed = parts.map(
        ([number, part]) =>
          `<Part><PartNumber>${number}</PartNumber><ETag>${xml(etagOf(part))}</ETag><Size>${part.length}</Size></Part>`,
      );
      return send(
        response,
        200,
        `<ListPartsResult><IsTruncated>false</IsTruncated>${listed.join('')}</ListPartsResult>`,
      );
    }
    const named = new Set([...body.toString().matchAll(/<PartNumber>(\d+)<\/PartNumber>/g)].map(([, n]) => Number(n)));
    const content = Buffer.concat(parts.filter(([number]) => named.has(number)).map(([, part]) => part));
    this.objects.set(key, { content, changedAt: new Date(), metadata: upload.metadata });
    this.#uploads.delete(id);
    return send(
      response,
      200,
      `<CompleteMultipartUploadResult><Bucket>${this.bucket}</Bucket><Key>${xml(key)}</Key><ETag>${xml(etagOf(content))}</ETag></CompleteMultipartUploadResult>`,
    );
  }
}

interface Asked {
  readonly request: IncomingMessage;
  readonly response: ServerResponse;
  readonly query: URLSearchParams;
  readonly key: string;
  readonly body: Buffer;
}

function send(
  response: ServerResponse,
  status: number,
  body = '',
  headers: Record<string, string> = {},
): ServerResponse {
  response.writeHead(status, {
    'content-type': 'application/xml',
    'content-length': Buffer.byteLength(body),
    ...headers,
  });
  return response.end(body);
}

const xml = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
const plain = (text: string): string =>
  text.replaceAll('&quot;', '"').replaceAll('&apos;', "'").replaceAll('&lt;', '<').replaceAll('&amp;', '&');
const errorXml = (code: string, message: string): string =>
  `<Error><Code>${code}</Code><Message>${xml(message)}</Message></Error>`;
const etagOf = (content: Buffer): string => `"${createHash('md5').update(content).digest('hex')}"`;
const metadataOf = ({ headers }: IncomingMessage): Record<string, string> =>
  Object.fromEntries(
    Object.entries(headers).flatMap(([name, value]) =>
      name.startsWith('x-amz-meta-') ? [[name.slice('x-amz-meta-'.length), String(value)]] : [],
    ),
  );

/** Whether a request is signed with the key, as AWS Signature Version 4 says. */
function isSigned({ method = 'GET', headers }: IncomingMessage, url: URL, body: Buffer): boolean {
  const [, id, day, region, service, signed, signature] =
    /^AWS4-HMAC-SHA256 Credential=([^/]+)\/(\d{8})\/([^/]+)\/([^/]+)\/aws4_request, ?SignedHeaders=([^,]+), ?Signature=([0-9a-f]{64})$/.exec(
      headers.authorization ?? '',
    ) ?? [];
  if (id !== KEYS.id || day === undefined || signed === undefined) return false;
  const hash = (content: Buffer | string): string => createHash('sha256').update(content).digest('hex');
  const payload = String(headers['x-amz-content-sha256'] ?? '');
  if (payload !== 'UNSIGNED-PAYLOAD' && payload !== hash(body)) return false;
  const strict = (text: string): string =>
    encodeURIComponent(text).replaceAll(/[!'()*]/g, (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`);
  const query = [...url.searchParams]
    .map(([name, value]) => `${strict(name)}=${strict(value)}`)
    .sort()
    .join('&');
  const path = url.pathname
    .split('/')
    .map((part) => strict(decodeURIComponent(part)))
    .join('/');
  const named = signed.split(';').map((name) => `${name}:${String(headers[name] ?? '').trim()}\n`);
  const canonical = [method, path, query, named.join(''), signed, payload].join('\n');
  const scope = `${day}/${region}/${service}/aws4_request`;
  const toSign = ['AWS4-HMAC-SHA256', headers['x-amz-date'], scope, hash(canonical)].join('\n');
  const mac = (key: Buffer | string, text: string): Buffer => createHmac('sha256', key).update(text).digest();
  const key = [day, region!, service!, 'aws4_request'].reduce<Buffer | string>(mac, `AWS4${KEYS.secret}`);
  return mac(key, toSign).toString('hex') === signature;
}
