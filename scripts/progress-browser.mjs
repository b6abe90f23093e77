import { tellFailure } from './failures.mjs';

/** Prints one line for each browser test that has ended, and how far the run is. @public named in the runner's settings */
export default class Progress {
  #all = 0;
  #ended = 0;

  onBegin(_config, suite) {
    this.#all = suite.allTests().length;
  }

  printsToStdio() {
    return true;
  }

  onTestEnd(test, result) {
    const { location, title } = test;
    const isAsExpected = result.status === test.expectedStatus || result.status === 'skipped';
    const isTriedAgain = !isAsExpected && result.retry < test.retries;
    const place = `[${String(isTriedAgain ? this.#ended : ++this.#ended).padStart(3)}/${this.#all}]`;
    const file = location.file.split('/').at(-1);
    const seconds = (result.duration / 1000).toFixed(1);
    console.log(`  ${place} ${isAsExpected ? '' : 'FAILED '}${file}: ${title}, ${seconds} s`);
    if (isAsExpected) return;
    tellFailure(`\n  ${file}: ${title}${isTriedAgain ? ' (is tried again)' : ''}`);
    for (const { message, snippet } of result.errors) tellFailure(`${message}\n${snippet ?? ''}`);
  }

  onError(error) {
    tellFailure(error.message ?? error.value);
  }
}
