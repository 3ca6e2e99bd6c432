#!/usr/bin/env node
// `npx lime-tick count FILE …`: the counting desk for pipelines. The program is TypeScript, and run as it stands.
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { register } from 'tsx/esm/api';

const root = path.join(path.dirname(fileURLToPath(import.meta.url)), '..');
register({ tsconfig: path.join(root, 'tsconfig.json') });
const { run } = await import('../src/command/run.ts');
process.exitCode = await run(process.argv.slice(2));
