import { expect, it } from 'vitest';
import { revisedPlan } from '@gull-pane/demo/revised-plan';
import { SITE_PLAN_NAME, writeSitePlan } from '@gull-pane/demo/site-plan';
import type { ComparisonDto } from '@gull-pane/protocol/comparison';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { RevisionDto } from '@gull-pane/protocol/revisions';
import { seedDemo } from '../src/seed-demo.ts';
import { TestServer } from './running-server.ts';

it('a new server has two models, sheets, and a plan with the issue before it to compare with', async () => {
  const server = await TestServer.start();
  try {
    const listed = (): Promise<DrawingDto[]> => server.json('/api/drawings');
    let isSeeded = false as boolean;
    const seeded = seedDemo(server.running.services).then(() => {
      isSeeded = true;
    });
    // nothing can be opened before it is there, though a number is left free for the issue before it
    const early: DrawingDto[] = [];
    while (!isSeeded) early.push(...(await listed()).filter(({ status }) => status === 'importing'));
    await seeded;
    expect(early.length).toBeGreaterThan(0);
    expect(new Set(early.map(({ revision }) => revision))).toEqual(new Set([0]));
    // the plan stands first, and is there before anything else is waited for
    const [plan] = await listed();
    expect(plan).toMatchObject({ name: SITE_PLAN_NAME, status: 'ready', revision: 2 });
    const revisions = (): Promise<RevisionDto[]> => server.json(`/api/drawings/${plan!.id}/revisions`);
    await expect
      .poll(async () => (await revisions()).map(({ name }) => name), { timeout: 400_000, interval: 200 })
      .toEqual(['Issue B', 'Issue A']);
    const [issueB, issueA] = await revisions();
    expect([issueB!.isCurrent, issueA!.isCurrent]).toEqual([true, false]);
    expect(Date.parse(issueA!.importedAt)).toBeLessThan(Date.parse(issueB!.importedAt));
    const drawings = await listed();
    expect(drawings.map(({ status }) => status)).toEqual(['ready', 'ready', 'ready', 'ready']);
    expect(drawings.map(({ sheets }) => sheets.length)).toEqual([0, 0, 0, 5]);
    // what differs is what the generator changed
    const parts: string[] = [];
    writeSitePlan((text) => void parts.push(text));
    const { edits } = revisedPlan(parts.join(''));
    const told = await server.json<ComparisonDto>(`/api/drawings/${plan!.id}/comparison?from=1&to=2`);
    const { added, gone, moved, restyled, renamed } = edits;
    expect(told.total).toBe(added + gone + moved + restyled + renamed);
    // once in the life of a data folder
    await seedDemo(server.running.services);
    expect(await listed()).toHaveLength(4);
  } finally {
    await server.stop();
  }
});
