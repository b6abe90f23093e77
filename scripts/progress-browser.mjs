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
    const isAsExpected = test.outcome() === 'expected' || test.outcome() === 'skipped';
    const place = `[${String(++this.#ended).padStart(3)}/${this.#all}]`;
    const file = location.file.split('/').at(-1);
    const seconds = (result.duration / 1000).toFixed(1);
    console.log(`  ${place} ${isAsExpected ? '' : 'FAILED '}${file}: ${title}, ${seconds} s`);
    if (!isAsExpected) for (const { message, snippet } of result.errors) console.error(`${message}\n${snippet ?? ''}`);
  }

  onError(error) {
    console.error(error.message ?? error.value);
  }
}
