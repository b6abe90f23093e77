import { Validator } from '@seriousme/openapi-schema-validator';

/** Holds a description of the interface against the standard. */
export const OpenApi = {
  async check(document: Record<string, unknown>): Promise<{ valid: boolean; errors: unknown[]; paths: string[] }> {
    const { valid, errors } = await new Validator().validate(document);
    const { paths } = document as { paths: Record<string, Record<string, unknown>> };
    const named = Object.entries(paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
    );
    return { valid, errors: errors === undefined ? [] : [errors].flat(), paths: named.sort() };
  },
};
