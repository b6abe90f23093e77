// npm start: installs and builds what is missing, then serves; the server migrates and seeds by itself.
import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { build, checkNode, install, root } from './set-up.mjs';

checkNode();
install();
build();
await import(pathToFileURL(join(root, 'packages/server/dist/main.js')).href);
