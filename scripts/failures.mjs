// What failed is printed where it failed, and once more at the end of a whole run, where the log of a CI is cut.
import { appendFileSync, existsSync, readFileSync } from 'node:fs';

const MOST_SHOWN = 20_000;

/** Prints a failure, and keeps it in the file that `GULL_PANE_FAILURES` names, if any. */
export function tellFailure(text) {
  console.error(text);
  if (process.env.GULL_PANE_FAILURES) appendFileSync(process.env.GULL_PANE_FAILURES, `${text}\n`);
}

/** @returns the failures kept in the file, shortened to what fits the end of a log; '' if there were none */
export function keptFailures(file) {
  return existsSync(file) ? readFileSync(file, 'utf8').slice(0, MOST_SHOWN).trimEnd() : '';
}
