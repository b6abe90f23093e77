/** What is shipped to run an office: settings that there are, files that there are. Images can’t be built by the tests. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { parse } from 'yaml';
import { root } from '../../../scripts/set-up.mjs';
import { answerTo } from '../src/command-line.ts';
import { configFromEnvironment } from '../src/config.ts';

const textOf = (path: string): string => readFileSync(join(root, path), 'utf8');
/** Settings as the source reads them. */
const settings = new Set(
  [...textOf('packages/server/src/config.ts').matchAll(/\bGULL_PANE_[A-Z0-9_]+/g)].map(([name]) => name),
);
for (const [name] of textOf('packages/server/src/people/open-id.ts').matchAll(/\bGULL_PANE_[A-Z0-9_]+/g))
  settings.add(name);

interface Service {
  readonly environment?: Readonly<Record<string, string>>;
  readonly volumes?: readonly string[];
  readonly build?: string;
  readonly read_only?: boolean;
}
const compose = parse(textOf('compose.yaml'), { merge: true }) as {
  readonly services: Readonly<Record<string, Service>>;
};

it('every setting is listed by --help and in the guide', () => {
  const help = answerTo(['--help'])!;
  const guide = textOf('docs/guide/running.md');
  for (const setting of settings) {
    expect(help).toContain(setting);
    expect(guide, setting).toContain(setting);
  }
});

it('compose.yaml sets nothing that isn’t read, and what its servers would start with', () => {
  const servers = Object.entries(compose.services).filter(([, { build }]) => build !== undefined);
  expect(servers.map(([name]) => name)).toEqual(['web-1', 'web-2', 'worker-1', 'worker-2']);
  for (const [name, { environment = {}, volumes = [], read_only: isReadOnly }] of servers) {
    for (const setting of Object.keys(environment))
      if (setting.startsWith('GULL_PANE_')) expect(settings, setting).toContain(setting);
    expect(isReadOnly).toBe(true);
    expect(volumes).toEqual([`${name}:/data`]);
    const filled = Object.fromEntries(
      Object.entries(environment).map(([key, value]) => [
        key,
        value
          .replaceAll('${POSTGRES_PASSWORD}', 'secret')
          .replaceAll('${GULL_PANE_TOKEN:-}', 'a-token-of-the-office')
          .replaceAll(/\$\{\w+:-\}/g, ''),
      ]),
    );
    const config = configFromEnvironment({ ...filled, HOST: '0.0.0.0', GULL_PANE_DATA: '/data' });
    expect([...config.roles]).toEqual([name.replace(/-\d$/, '')]);
    expect(config.blobs).toEqual({ bucket: 'gull-pane', prefix: '', endpoint: 'http://store:9000' });
  }
});

it('the image is made of what there is', () => {
  const dockerfile = textOf('Dockerfile');
  const packages = readdirSync(join(root, 'packages'));
  for (const name of packages) expect(dockerfile).toContain(`COPY packages/${name}/package.json packages/${name}/`);
  for (const [, path] of dockerfile.matchAll(/^COPY --from=build \/app\/(\S+)/gm))
    expect(existsSync(join(root, path!)), path).toBe(true);
  expect(dockerfile).toMatch(/^USER node$/m);
  expect(dockerfile).toMatch(/^HEALTHCHECK /m);
  expect(textOf('deploy/proxy.conf')).toContain('server web-1:4180');
});
