import type { ProblemCode } from '../problems.ts';
import type { Need } from '../roles.ts';

type Dto = new () => object;
export type Json = Readonly<Record<string, unknown>>;

/** A parameter in the query or in a header. */
export interface Parameter {
  readonly in: 'query' | 'header';
  readonly name: string;
  readonly description: string;
  readonly schema: Json;
  readonly isRequired?: boolean;
}

export interface Operation {
  readonly method: 'get' | 'post' | 'patch' | 'put' | 'delete';
  /** With parameters in braces. */
  readonly path: string;
  /** The role that it needs. */
  readonly needs: Need;
  readonly summary: string;
  readonly parameters?: readonly Parameter[];
  readonly body?: Json;
  readonly status?: number;
  /** Content of the answer, by media type; none for an empty one. */
  readonly answer?: Json;
  readonly problems?: readonly ProblemCode[];
}

/** A schema by its name. */
export const ref = (dto: Dto): Json => ({ $ref: `#/components/schemas/${dto.name}` });
/** A content in JSON. */
export const json = (schema: Json): Json => ({ 'application/json': { schema } });
/** A content in JSON: a list of what a schema describes. */
export const listOf = (dto: Dto): Json => json({ type: 'array', items: ref(dto) });
/** A content that is no JSON. */
export const bytes = (type: string): Json => ({ [type]: { schema: { type: 'string', format: 'binary' } } });
export const file: Json = {
  'multipart/form-data': {
    schema: { type: 'object', required: ['file'], properties: { file: { type: 'string', format: 'binary' } } },
  },
};
/** A parameter in the query of an address. */
export const query = (name: string, description: string, schema: Json, isRequired = false): Parameter => ({
  in: 'query',
  name,
  description,
  schema,
  isRequired,
});
/** A parameter in a header of the request. */
export const header = (name: string, description: string, schema: Json = { type: 'string' }): Parameter => ({
  in: 'header',
  name,
  description,
  schema,
});
