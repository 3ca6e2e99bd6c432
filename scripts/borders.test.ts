import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { BORDERS, withBorders } from './borders.mjs';

const REFUSED: readonly (readonly [room: string, from: string])[] = [
  ['core/time', '@/core/document/model'],
  ['core/document', '@/core/sheet/runs'],
  ['core/sheet', '@/core/edit/step'],
  ['core/edit', '@/core/chart/shapes'],
  ['core/edit', '@/core/reel/reel'],
  ['core/edit', '@/core/bring/bringIn'],
  ['core/edit', 'react'],
  ['core/edit', 'react/jsx-runtime'],
  ['core/edit', 'node:fs'],
  ['core/bring', '@/core/conform/conform'],
  ['core/bring', 'react'],
  ['core/reel', '@/core/render/stacks'],
  ['core/render', '@/core/output/sequenceNames'],
  ['core/render', '@/core/check/finding'],
  ['core/output', '@/core/count/receipt'],
  ['core/count', '@/core/output/sequenceNames'],
  ['core/count', '@/core/edit/step'],
  ['core/count/fileCount', '@/core/render/renderPlan'],
  ['core/count/readBack', '@/core/output/recipe'],
  ['workers/output/film/readFilm', '@/core/render/renderPlan'],
  ['workers/output/pictures/readPngs', '@/core/output/recipe'],
  ['core/analysis', '@/core/check/finding'],
  ['core/check', '@/core/output/sequenceNames'],
  ['core/format', '@/core/edit/drawingEdits'],
  ['core/sound', '@/core/edit/step'],
  ['core/raster', 'drizzle-orm'],
  ['core/raster', '@/core/render/stacks'],
  ['workers', '@/features/project/hooks'],
  ['workers', 'react'],
  ['workers/output', '@/features/handover/handoverStore'],
  ['workers/render', '@/contracts/step'],
  ['contracts', '@/server/service/steps'],
  ['server/db', '@/server/store/journal'],
  ['server/store', '@/contracts/step'],
  ['server/service', '@/server/db/client'],
  ['app/api', '@/server/store/journal'],
  ['app/api', '@/server/db/client'],
  ['demo', '@/server/store/journal'],
  ['ui', '@/core/time/rate'],
  ['features/sync', '@/features/project/hooks'],
  ['features/ink', '@/features/draw/desk'],
  ['features/bring', '@/features/draw/desk'],
  ['features/draw', '@/features/bring/bringing'],
  ['features/draw', '@/features/plan/ShotList'],
  ['features/draw', '@/server/service/steps'],
  ['features/draw', '@/workers/render/compositor'],
  ['features/handover', '@/features/check/groups'],
  ['features/sound', '@/features/check/groups'],
  ['features/clock', '@/features/check/groups'],
  ['features/commands', '@/features/sheet/Sheet'],
  ['features/sheet', '../draw/desk'],
];

const LET_THROUGH: readonly (readonly [room: string, from: string])[] = [
  ['core/time', '@/core/outcome'],
  ['core/sheet', '@/core/document/model'],
  ['core/chart', '@/core/edit/edit'],
  ['core/bring', '@/core/edit/edit'],
  ['core/render', '@/core/reel/reel'],
  ['core/output', '@/core/render/renderPlan'],
  ['core/count/fileCount', '@/core/count/fileTimes'],
  ['core/count', '@/core/render/renderPlan'],
  ['core/check', '@/core/edit/step'],
  ['core/check', '@/core/analysis/facts'],
  ['workers/output', '@/core/count/fileTimes'],
  ['workers/output', '@/workers/render/compositor'],
  ['contracts', '@/core/edit/step'],
  ['server/store', '@/server/db/client'],
  ['server/service', '@/server/store/journal'],
  ['app/api', '@/server/service/steps'],
  ['features/bring', '@/features/project/hooks'],
  ['features/draw', '@/features/project/hooks'],
  ['features/draw', '@/workers/client'],
  ['features/check', '@/features/clock/Player'],
  ['features/handover', '@/features/clock/Player'],
  ['features/sheet', './drag'],
];

const fileOf = (room: string, from: string) => `src/${room}/imports-${from.replace(/[^a-z]+/gi, '-')}.ts`;

/** Files, in a tree of their own under the project's rules, in which the linter found a forbidden import. */
function filesStopped(): Set<string> {
  const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-borders-'));
  const settings = withBorders(JSON.parse(readFileSync('biome.json', 'utf8')));
  writeFileSync(path.join(folder, 'biome.json'), JSON.stringify({ ...settings, $schema: undefined, vcs: undefined }));
  for (const [room, from] of [...REFUSED, ...LET_THROUGH]) {
    mkdirSync(path.join(folder, 'src', room), { recursive: true });
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

  it('are told of every room there is', () => {
    const folders = (folder: string) =>
      readdirSync(path.join('src', folder), { withFileTypes: true }).flatMap((entry) => (entry.isDirectory() ? [entry.name] : []));
    const withRooms = ['core', 'features', 'server'];
    const rooms = folders('')
      .filter((folder) => folder !== 'testing')
      .flatMap((folder) => (withRooms.includes(folder) ? folders(folder).map((room) => `${folder}/${room}`) : [folder]))
      .filter((room) => room !== 'core/testing');
    const isFolder = (room: string) => existsSync(path.join('src', room));
    expect(rooms.toSorted()).toEqual(
      BORDERS.map(([room]) => room)
        .filter(isFolder)
        .toSorted(),
    );
  });

  it.each(REFUSED)('keep %s from importing %s', (room, from) => expect(stopped).toContain(fileOf(room, from)));

  it.each(LET_THROUGH)('let %s import %s', (room, from) => expect(stopped).not.toContain(fileOf(room, from)));
});

describe('the core', () => {
  const sources = readdirSync('src/core', { recursive: true, encoding: 'utf8' }).filter((file) => /^(?!.*\.test\.ts$).*\.ts$/.test(file));

  it('takes its time and its chance from nowhere', () => {
    const impure = sources.filter((file) =>
      /\bDate\.now|\bMath\.random|\bnew Date\(\)/.test(readFileSync(path.join('src/core', file), 'utf8')),
    );
    expect(sources.length).toBeGreaterThan(150);
    expect(impure).toEqual([]);
  });
});
