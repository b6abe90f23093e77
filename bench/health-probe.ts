/**
 * Asks the server how it is every 50 ms until its input is closed, in a process of its own so that it waits for nothing
 * but the answer. Prints the slowest.
 * usage: tsx bench/health-probe.ts URL
 */
const [, , url] = process.argv;
const asking = new AbortController();
process.stdin.on('end', () => asking.abort()).resume();
let slowestMs = 0;
let answers = 0;
await fetch(`${url}api/health`); // the connection is made before anything is measured
while (!asking.signal.aborted) {
  const before = performance.now();
  await fetch(`${url}api/health`);
  slowestMs = Math.max(slowestMs, performance.now() - before);
  answers++;
  await new Promise((resolve) => setTimeout(resolve, 50));
}
console.log(JSON.stringify({ slowestMs, answers }));
process.exit(0);

export {}; // a module: it awaits at its top
