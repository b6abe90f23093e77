import { tellFailure } from './failures.mjs';

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
    const unsteady = tests.filter((test) => test.diagnostic()?.flaky === true);
    this.#tests += tests.length;
    const seconds = (module.diagnostic().duration / 1000).toFixed(1);
    const place = `[${String(++this.#ended).padStart(3)}/${this.#files}]`;
    console.log(
      `  ${place} ${failed.length > 0 ? 'FAILED ' : ''}${module.relativeModuleId}, ${tests.length} tests, ${seconds} s`,
    );
    for (const error of module.errors()) tellFailure(`\n  ${module.relativeModuleId}\n${error.stack ?? error.message}`);
    for (const test of [...failed, ...unsteady]) {
      const triedAgain = unsteady.includes(test) ? ' (passed when tried again)' : '';
      tellFailure(`\n  ${module.relativeModuleId}: ${test.fullName}${triedAgain}`);
      for (const { message, diff, stacks = [] } of test.result().errors ?? []) {
        const at = stacks[0] ? `\n    at ${stacks[0].file}:${stacks[0].line}` : '';
        tellFailure(`    ${message}${diff ? `\n${diff}` : ''}${at}`);
      }
    }
  }

  onTestRunEnd(_modules, unhandledErrors) {
    for (const error of unhandledErrors) tellFailure(`\n  outside of a test\n${error.stack ?? error.message}`);
    console.log(`  ${this.#tests} tests in ${this.#ended} files`);
  }
}
