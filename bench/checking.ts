/** How long checking a drawing takes: finding what differs between two revisions, recording what has been seen. */
import { join } from 'node:path';
import { readFileSync } from 'node:fs';
import type { Browser } from '@playwright/test';
import { SITE_PLAN_NAME } from '@gull-pane/demo/site-plan';
import { revisedPlan } from '@gull-pane/demo/revised-plan';
import type { ComparisonDto } from '@gull-pane/protocol/comparison';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { readStore } from '../packages/server/src/pyramid/read-store.ts';
import { framesOfDrag, settled } from './hands.ts';
import { median, percentile, ratio, type Figure } from './statistics.ts';

/** At most so many times as long as reading both revisions once. */
const MOST_DIFF = 6;

/**
 * The comparison of a plan with its next revision, asked for over the API, against reading all objects of both once.
 * @param dataFolder of the server
 * @param file the plan, as SVG
 */
export async function measureRevisionDiff(
  url: string,
  dataFolder: string,
  file: string,
  samples: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const before = readFileSync(file, 'utf8');
  const { svg } = revisedPlan(before);
  const send = async (method: string, path: string, text: string): Promise<string> => {
    const body = new FormData();
    body.append('file', new File([text], 'Checked.svg'));
    const { drawingId, jobId } = (await (
      await fetch(`${url}api/${path}`, { method, body })
    ).json()) as ImportAcceptedDto;
    for (;;) {
      const { state } = (await (await fetch(`${url}api/jobs/${jobId}`)).json()) as JobDto;
      if (hasEnded(state)) break;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    return drawingId;
  };
  const id = await send('POST', 'drawings', before);
  await send('PUT', `drawings/${id}/source`, svg);
  const [ours, floor]: [number[], number[]] = [[], []];
  let found = 0;
  for (let k = 0; k < samples; k++) {
    const readMs = performance.now();
    let objects = 0;
    for (const revision of [1, 2])
      for (const { id: object } of readStore(join(dataFolder, 'drawings', id, `r${revision}`)))
        objects += object >= 0 ? 1 : 0;
    floor.push(performance.now() - readMs);
    const beganMs = performance.now();
    // another tolerance each time: a comparison that is there is only sent
    const answer = await fetch(`${url}api/drawings/${id}/comparison?tolerance=${1e-4 * (1 + k / 1000)}`);
    found = ((await answer.json()) as ComparisonDto).total;
    ours.push(performance.now() - beganMs);
    if (objects === 0 || found === 0) throw new Error('bench: nothing was compared');
  }
  keep(ratio('revision-diff', MOST_DIFF, 'reading all objects of both revisions once', { ours, peer: floor }));
  console.log(`${found} changes in ${Math.round(median(ours))} ms, both read in ${Math.round(median(floor))} ms`);
}

/** A frame of a pan while what is seen is recorded, against the same pan without. */
export async function measureCoverage(
  browser: Browser,
  url: string,
  takes: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const drawings = (await (await fetch(`${url}api/drawings`)).json()) as DrawingDto[];
  const plan = drawings.find(({ name }) => name === SITE_PLAN_NAME)!;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}d/${plan.id}`);
  await settled(page);
  await page.keyboard.press('+');
  await settled(page);
  // what has been seen is looked at once the view rests: a frame on the way costs what it costs without
  const recorded: number[] = [];
  const unrecorded: number[] = [];
  for (let take = 0; take < takes; take++) {
    for (const frames of [recorded, unrecorded]) {
      await page.locator('.pane-surface').first().focus();
      await page.keyboard.press('Shift+Digit7');
      await settled(page);
      frames.push(percentile(await framesOfDrag(page, 'pan'), 0.5));
    }
  }
  keep(
    ratio('coverage-frame', 1.02, 'a frame of the same pan without recording', { ours: recorded, peer: unrecorded }),
  );
  await page.close();
}
