/** `npm run backup -- FILE` and `npm run restore -- FILE`. */
import { runTool } from './backup/tool.ts';
import { StartError } from './start-error.ts';

try {
  const [what, file] = process.argv.slice(2);
  console.log(await runTool(what, file, process.env));
} catch (error) {
  console.error(error instanceof StartError ? error.message : error);
  process.exitCode = 1;
}
