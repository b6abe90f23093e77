/** The interface’s types for the page are generated from its description: `npx vitest run --project unit api/paths -u` renews them. */
import openapiTS, { astToString } from 'openapi-typescript';
import { expect, it } from 'vitest';
import { openApiDocument } from '@gull-pane/protocol/openapi/document';

it('types of the interface are those of its description', async () => {
  const tree = await openapiTS(openApiDocument() as never, { immutable: true, alphabetize: true });
  const head = '/** Generated from the description of the interface: see paths.test.ts. */\n';
  // what this description has none of isn't used by anybody
  const text = astToString(tree).replaceAll(/^export type (webhooks|\$defs) = .*\n/gm, '');
  await expect(head + text).toMatchFileSnapshot('./paths.d.ts');
});
