/** Prints one line for each test file that has ended, and how far the run is. @public named in the runner's settings */
export default class Progress {
  #files = 0;
  #ended = 0;
  #tests = 0;

  onTestRunStart(specifications) {
    this.#files = specifications.length;
  }

  onTestModuleEnd(module) {
    const tests = [...module.children.allTests()];
    const failed = tests.filter((test) => test.result().state === 'failed');
    this.#tests += tests.length;
    const seconds = (module.diagnostic().duration / 1000).toFixed(1);
    const place = `[${String(++this.#ended).padStart(3)}/${this.#files}]`;
    console.log(
      `  ${place} ${failed.length > 0 ? 'FAILED ' : ''}${module.relativeModuleId}, ${tests.length} tests, ${seconds} s`,
    );
    for (const error of module.errors()) console.error(error.stack ?? error.message);
    for (const test of failed) {
      console.error(`\n  ${test.fullName}`);
      for (const { message, diff, stacks = [] } of test.result().errors ?? []) {
        const at = stacks[0] ? `\n    at ${stacks[0].file}:${stacks[0].line}` : '';
        console.error(`    ${message}${diff ? `\n${diff}` : ''}${at}`);
      }
    }
  }

  onTestRunEnd(_modules, unhandledErrors) {
    for (const error of unhandledErrors) console.error(error.stack ?? error.message);
    console.log(`  ${this.#tests} tests in ${this.#ended} files`);
  }
}
