import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';

const REFUSED: readonly (readonly [room: string, from: string])[] = [
  ['src/core/time', '@/core/sheet/runs'],
  ['src/core/sheet', '@/core/edit/step'],
  ['src/core/edit', '@/core/chart/shapes'],
  ['src/core/format', '@/core/edit/drawingEdits'],
  ['src/core/edit', '@/core/bring/bringIn'],
  ['src/core/bring', '@/core/conform/conform'],
  ['src/core/bring', 'react'],
  ['src/features/bring', '@/features/draw/desk'],
  ['src/features/draw', '@/features/bring/bringing'],
  ['src/features/ink', '@/features/draw/desk'],
  ['src/core/check', '@/core/render/renderPlan'],
  ['src/core/sound', '@/core/edit/step'],
  ['src/features/sound', '@/features/check/groups'],
  ['src/core/edit', 'react'],
  ['src/core/edit', 'node:fs'],
  ['src/core/raster', 'drizzle-orm'],
  ['src/workers', '@/features/project/hooks'],
  ['src/workers', 'react'],
  ['src/contracts', '@/server/service/steps'],
  ['src/server/store', '@/contracts/step'],
  ['src/server/service', '@/server/db/client'],
  ['src/app/api', '@/server/store/journal'],
  ['src/features/draw', '@/features/plan/ShotList'],
  ['src/features/draw', '@/server/service/steps'],
  ['src/features/draw', '@/workers/render/compositor'],
  ['src/ui', '@/core/time/rate'],
  ['src/features/sheet', '../draw/desk'],
];

const LET_THROUGH: readonly (readonly [room: string, from: string])[] = [
  ['src/core/check', '@/core/edit/step'],
  ['src/core/chart', '@/core/edit/edit'],
  ['src/core/bring', '@/core/edit/edit'],
  ['src/features/bring', '@/features/project/hooks'],
  ['src/features/draw', '@/features/project/hooks'],
  ['src/features/draw', '@/workers/client'],
  ['src/server/service', '@/server/store/journal'],
  ['src/app/api', '@/server/service/steps'],
];

const fileOf = (room: string, from: string) => `${room}/imports-${from.replace(/[^a-z]+/gi, '-')}.ts`;

/** Files, in a tree of their own under the project's rules, in which the linter found a forbidden import. */
function filesStopped(): Set<string> {
  const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-borders-'));
  const rules = JSON.parse(readFileSync('biome.json', 'utf8')) as Record<string, unknown>;
  writeFileSync(path.join(folder, 'biome.json'), JSON.stringify({ ...rules, $schema: undefined, vcs: undefined }));
  for (const [room, from] of [...REFUSED, ...LET_THROUGH]) {
    mkdirSync(path.join(folder, room), { recursive: true });
    writeFileSync(path.join(folder, fileOf(room, from)), `import { thing } from '${from}';\n\nexport const other = thing;\n`);
  }
  const { stdout, stderr } = spawnSync(path.resolve('node_modules/.bin/biome'), ['lint', '--max-diagnostics=200', '--colors=off', '.'], {
    cwd: folder,
    encoding: 'utf8',
  });
  return new Set([...(stdout + stderr).matchAll(/^(\S+):\d+:\d+ lint\/style\/noRestrictedImports/gm)].map((match) => match[1] ?? ''));
}

describe('the borders between rooms', () => {
  let stopped = new Set<string>();
  beforeAll(() => {
    stopped = filesStopped();
  });

  it.each(REFUSED)('keep %s from importing %s', (room, from) => expect(stopped).toContain(fileOf(room, from)));

  it.each(LET_THROUGH)('let %s import %s', (room, from) => expect(stopped).not.toContain(fileOf(room, from)));
});
