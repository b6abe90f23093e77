import type { paths } from './paths';

export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
type Responses = { readonly responses: unknown };

/** Addresses that take a method. */
export type PathOf<M extends Method> = {
  [P in keyof paths]: paths[P] extends Readonly<Record<M, Responses>> ? P : never;
}[keyof paths];

export type Operation<M extends Method, P extends PathOf<M>> = paths[P][M & keyof paths[P]];

/** What a request is made of, whichever it is. */
export interface Asked {
  readonly path?: Readonly<Record<string, string | number>>;
  readonly query?: object | undefined;
  readonly body?: unknown;
  /** Sent even if the page is left meanwhile. */
  readonly keepalive?: boolean;
}

type PathValues<O> = O extends { readonly parameters: { readonly path: infer V } }
  ? { readonly path: { readonly [K in keyof V]: string | number } }
  : unknown;
type QueryValues<O> = O extends { readonly parameters: { readonly query?: infer Q } }
  ? { readonly query?: Q }
  : unknown;
type BodyOf<O> = O extends { readonly requestBody: { readonly content: { readonly 'application/json': infer B } } }
  ? { readonly body: B }
  : unknown;
type AllOf<O> = PathValues<O> & QueryValues<O> & BodyOf<O> & Pick<Asked, 'keepalive'>;

/** What an operation asks for: nothing needs to be given where nothing is needed. */
export type AskedOf<O> = Partial<AllOf<O>> extends AllOf<O> ? [asked?: AllOf<O>] : [asked: AllOf<O>];
