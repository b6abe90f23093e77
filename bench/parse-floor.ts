/**
 * The floor of an import: the same XML parser, and every number of the file into a Float64Array. Prints the time.
 * usage: tsx bench/parse-floor.ts FILE.svg
 */
import { createReadStream } from 'node:fs';
import { SaxesParser } from 'saxes';

const [, , path] = process.argv;
const begin = performance.now();
let numbers = new Float64Array(1 << 20);
let count = 0;
const parser = new SaxesParser({ position: true });
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/g;
parser.on('opentag', ({ attributes }) => {
  for (const value of Object.values(attributes) as string[]) {
    for (const [text] of value.matchAll(NUMBER)) {
      if (count === numbers.length) {
        const larger = new Float64Array(2 * count);
        larger.set(numbers);
        numbers = larger;
      }
      numbers[count++] = Number(text);
    }
  }
});
for await (const chunk of createReadStream(path!, { encoding: 'utf8', highWaterMark: 1 << 18 }))
  parser.write(chunk as string);
parser.close();
console.log(JSON.stringify({ ms: performance.now() - begin, numbers: count }));
