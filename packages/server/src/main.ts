import { answerTo, readEnvFile } from './command-line.ts';
import { configFromEnvironment } from './config.ts';
import { seedDemo } from './seed-demo.ts';
import { startServer } from './server.ts';
import { StartError } from './start-error.ts';

async function serve(): Promise<void> {
  readEnvFile();
  const config = configFromEnvironment(process.env);
  const server = await startServer(config);
  let isStopping = false;
  const stop = (): void => {
    const { drain } = server.services;
    if (isStopping) drain.cutShort();
    if (isStopping) return;
    isStopping = true;
    const stopped = drain.begin(config.drainSeconds).then(() => server.stop());
    stopped.then(
      () => process.exit(0),
      (error: unknown) => {
        console.error(error);
        process.exit(1);
      },
    );
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  await seedDemo(server.services);
  console.log(`Gull Pane is ready: ${server.url}`);
}

try {
  const answer = answerTo(process.argv.slice(2));
  if (answer === null) await serve();
  else console.log(answer);
} catch (error) {
  console.error(error instanceof StartError ? error.message : error);
  process.exit(1);
}
