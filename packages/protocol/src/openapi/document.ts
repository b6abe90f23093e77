/// <reference path="../class-transformer-storage.d.ts" />
import 'reflect-metadata/lite';
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { problemCatalogue, type ProblemCode } from '../problems.ts';
import type { Json, Operation } from './operation.ts';
import { operationGroups } from './operations.ts';

/** The interface as an OpenAPI 3.1 document. */
export function openApiDocument(): Json {
  const schemas = validationMetadatasToSchemas({
    refPointerPrefix: '#/components/schemas/',
    classTransformerMetadataStorage: defaultMetadataStorage,
  });
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [group, operation] of operationGroups.flatMap((one) =>
    one.operations.map((own) => [one.name, own] as const),
  )) {
    const { method, path, needs, summary, body, status = 200, answer, problems = [] } = operation;
    const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }));
    const others = (operation.parameters ?? []).map(({ isRequired = false, ...parameter }) => ({
      ...parameter,
      required: isRequired,
    }));
    const parameters = [...inPath, ...others, ...usualParameters(operation)];
    (paths[path] ??= {})[method] = {
      operationId: operationIdOf(method, path),
      summary,
      tags: [group],
      'x-needs-role': needs,
      security: needs === 'nothing' ? [] : [{ token: [] }, { session: [] }],
      ...(parameters.length > 0 ? { parameters } : {}),
      ...(body ? { requestBody: { required: true, content: body } } : {}),
      responses: {
        [status]: { description: 'Done', ...(answer ? { content: answer } : {}) },
        ...problemResponses([...(needs === 'nothing' ? [] : ACCESS_PROBLEMS), ...problems]),
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Gull Pane', version: '0.1.0', license: { name: 'MIT', identifier: 'MIT' } },
    tags: operationGroups.map(({ name }) => ({ name })),
    paths,
    components: { securitySchemes, schemas: usedSchemas(paths, { ...schemas, Problem: problemSchema }) },
  };
}

/** Of all schemas those that something refers to: which others are known depends on what else a program has loaded. */
function usedSchemas(paths: unknown, all: Readonly<Record<string, unknown>>): Json {
  const used = new Set<string>();
  const look = (at: unknown): void => {
    for (const [, name] of JSON.stringify(at).matchAll(/"#\/components\/schemas\/(\w+)"/g)) {
      if (used.has(name!)) continue;
      used.add(name!);
      look(all[name!] ?? {});
    }
  };
  look(paths);
  return Object.fromEntries(Object.entries(all).filter(([name]) => used.has(name)));
}

/** What all lists and all resources with versions have in common. */
function usualParameters({ method, path, answer, problems = [] }: Operation): readonly Json[] {
  const schema = (answer?.['application/json'] as { schema?: { type?: string } } | undefined)?.schema;
  if (method === 'get' && schema?.type === 'array') return [LIMIT, AFTER];
  const isVersioned = method === 'patch' && problems.includes('version-conflict');
  return isVersioned || (method === 'delete' && VERSIONED.test(path)) ? [IF_MATCH] : [];
}

const VERSIONED = /^\/api\/(cards|tours|sheet-sets|arrangements)\/\{id\}$/;
const LIMIT: Json = {
  in: 'query',
  name: 'limit',
  description: 'Items at most; the header `link` then leads to the next page',
  schema: { type: 'integer', minimum: 1, maximum: 1000 },
  required: false,
};
const AFTER: Json = {
  in: 'query',
  name: 'after',
  description: 'The id of the last item of the page before',
  schema: { type: 'string' },
  required: false,
};
const IF_MATCH: Json = {
  in: 'header',
  name: 'if-match',
  description: 'The ETag of the version that is changed, instead of `version` in the body',
  schema: { type: 'string' },
  required: false,
};

/** Errors of every request that needs a role, where a token or a sign-in service is set. */
const ACCESS_PROBLEMS = ['token-needed', 'not-allowed', 'too-many-requests'] as const;

const securitySchemes: Json = {
  token: { type: 'http', scheme: 'bearer', description: 'The access token that the server was started with' },
  session: {
    type: 'apiKey',
    in: 'cookie',
    name: 'gull_pane_session',
    description: 'Set by naming the token, or by signing in',
  },
};

/** A name for an operation that generated clients can call it by: `getDrawingsByIdLayers`. */
function operationIdOf(method: string, path: string): string {
  const words = path.split(/[/.-]/).flatMap((word) => {
    const parameter = /^\{(\w+)\}$/.exec(word);
    if (parameter) return ['By', parameter[1]!];
    return word === '' || word === 'api' ? [] : [word];
  });
  return method + words.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join('');
}

const problemSchema: Json = {
  type: 'object',
  description: 'RFC 9457 problem details',
  required: ['type', 'title', 'status', 'code', 'hint'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string' },
    instance: { type: 'string' },
    code: { enum: Object.keys(problemCatalogue) },
    hint: { type: 'string' },
    line: { type: 'integer' },
    column: { type: 'integer' },
    current: { description: 'In a conflict: the version on the server' },
  },
};

function problemResponses(codes: readonly ProblemCode[]): Json {
  const byStatus = new Map<number, ProblemCode[]>();
  for (const code of codes) {
    const { status } = problemCatalogue[code];
    byStatus.set(status, [...(byStatus.get(status) ?? []), code]);
  }
  return Object.fromEntries(
    [...byStatus].map(([status, list]) => {
      const content = { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } };
      return [String(status), { description: list.map((code) => problemCatalogue[code].title).join('; '), content }];
    }),
  );
}
