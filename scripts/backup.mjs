// npm run backup -- FILE, npm run restore -- FILE: everything that a server keeps, in one file and back.
import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { build, checkNode, install, root } from './set-up.mjs';

checkNode();
install();
build();
await import(pathToFileURL(join(root, 'packages/server/dist/backup-tool.js')).href);
