// The borders between the rooms of src, as one table from which the linter's settings are made. `npm run lint` holds them.

const CORE = ['core/**'];
const SHARED_FEATURES = ['features/sync', 'features/project'];
/** What a stage may import of the other features: what the stages share, and never another stage. */
const STAGE = [
  ...SHARED_FEATURES,
  'features/commands',
  'features/sheet',
  'features/clock',
  'features/path',
  'features/ink',
  'features/sound',
  'features/format',
  'features/help',
];
const PAGE = ['core/**', 'contracts', 'workers/client', 'ui'];
const GROUND = ['core/outcome', 'core/remembered', 'core/words', 'core/utf8', 'core/bytes', 'core/growingRow'];
const SHEET = [...GROUND, 'core/time', 'core/document', 'core/sheet'];
const EDIT = [...SHEET, 'core/edit'];
const REEL = [...EDIT, 'core/chart', 'core/conform', 'core/reel'];
const RENDER = [...REEL, 'core/finish', 'core/render'];

const COUNTED = [...GROUND, 'core/document', 'core/raster', 'core/count'];

const INTERFACE = ['react', 'react-dom', 'next', 'zustand', 'sonner', 'radix-ui', 'idb', 'comlink'];
const NOT_IN_CORE = [...INTERFACE, 'node:*', 'drizzle-orm', 'zod', 'mediabunny', 'sharp'];

/**
 * Each room: what it may import besides itself, and the packages it never does. A room is a folder of src with all that
 * lies in it, or a file, which is held to its own row. In the core imports run one way, down this list; the rooms after `core/count` read, and nobody reads them.
 */
export const BORDERS = [
  ['core/outcome', [], NOT_IN_CORE],
  ['core/remembered', [], NOT_IN_CORE],
  ['core/words', [], NOT_IN_CORE],
  ['core/delta', [], NOT_IN_CORE],
  ['core/utf8', [], NOT_IN_CORE],
  ['core/bytes', [], NOT_IN_CORE],
  ['core/growingRow', [], NOT_IN_CORE],
  ['core/compiledCode', [], NOT_IN_CORE],
  ['core/time', GROUND, NOT_IN_CORE],
  ['core/document', [...GROUND, 'core/time'], NOT_IN_CORE],
  ['core/raster', [...GROUND, 'core/compiledCode', 'core/document'], NOT_IN_CORE],
  ['core/sound', [...GROUND, 'core/time', 'core/document'], NOT_IN_CORE],
  ['core/sheet', SHEET, NOT_IN_CORE],
  ['core/edit', EDIT, NOT_IN_CORE],
  ['core/chart', EDIT, NOT_IN_CORE],
  ['core/conform', EDIT, NOT_IN_CORE],
  ['core/bring', EDIT, NOT_IN_CORE],
  ['core/reel', EDIT, NOT_IN_CORE],
  ['core/finish', [...EDIT, 'core/compiledCode', 'core/raster'], NOT_IN_CORE],
  ['core/render', [...REEL, 'core/finish'], NOT_IN_CORE],
  ['core/output', [...RENDER, 'core/raster'], NOT_IN_CORE],
  ['core/count', [...GROUND, 'core/time', 'core/document', 'core/raster', 'core/render'], NOT_IN_CORE],
  // Who counts a file, and who opens it to be counted, knows nothing of what was asked for or meant.
  ['core/count/fileCount', [...GROUND, 'core/time', 'core/document', 'core/count'], NOT_IN_CORE],
  ['core/count/readBack', [...GROUND, 'core/document', 'core/count'], NOT_IN_CORE],
  ['core/format', [...SHEET, 'core/chart', 'core/raster'], NOT_IN_CORE],
  ['core/editorial', [...REEL, 'core/format'], NOT_IN_CORE],
  ['core/analysis', [...RENDER, 'core/compiledCode', 'core/raster'], NOT_IN_CORE],
  ['core/check', [...RENDER, 'core/raster', 'core/analysis'], NOT_IN_CORE],
  ['core/past', [...REEL], NOT_IN_CORE],
  // What others made is held against a plan by all that is known of both, and against what destinations take.
  [
    'core/outside',
    [...RENDER, 'core/compiledCode', 'core/bring', 'core/raster', 'core/count', 'core/analysis', 'core/check/destinations'],
    NOT_IN_CORE,
  ],
  ['workers', CORE, ['react', 'react-dom', 'next', 'zustand', 'drizzle-orm', 'node:*']],
  ['workers/output/film/readFilm', [...COUNTED, 'core/output/outsideFilm', 'workers/output/film', 'workers/output/fileDigest'], []],
  [
    'workers/output/film/outsideFrames',
    [...COUNTED, 'core/output/outsideFilm', 'workers/output/film', 'workers/output/fileDigest', 'workers/lines'],
    [],
  ],
  ['workers/output/pictures/readPngs', [...COUNTED, 'core/format', 'workers/output/outputFormat', 'workers/render'], []],
  ['contracts', CORE, [...INTERFACE, 'node:*', 'drizzle-orm']],
  ['server/log', [], INTERFACE],
  ['server/db', [...CORE, 'server/log'], INTERFACE],
  ['server/store', [...CORE, 'server/db', 'server/log'], INTERFACE],
  ['server/encoder', [...CORE, 'server/log'], INTERFACE],
  ['server/service', [...CORE, 'server/store', 'server/encoder', 'server/log', 'contracts', 'demo'], INTERFACE],
  ['app', [...CORE, 'server/service', 'server/log', 'contracts', 'features', 'ui'], ['drizzle-orm']],
  // The command counts with the same core; what opens files is shared with the workers, and what decodes pictures with the server.
  [
    'command',
    [...CORE, 'contracts', 'workers/count', 'workers/output/film', 'server/service/bringIn', 'server/service/package'],
    INTERFACE,
  ],
  ['demo', CORE, INTERFACE],
  ['simd', [], [...INTERFACE, 'node:*']],
  ['ui', [], []],
  ['features/sync', PAGE, []],
  ['features/project', [...PAGE, 'features/sync'], []],
  ['features/ink', [...PAGE, ...SHARED_FEATURES], []],
  ['features/commands', [...PAGE, ...SHARED_FEATURES], []],
  ['features/sound', [...PAGE, ...SHARED_FEATURES, 'features/commands'], []],
  ['features/sheet', [...PAGE, ...SHARED_FEATURES, 'features/commands'], []],
  ['features/clock', [...PAGE, ...SHARED_FEATURES, 'features/commands', 'features/sheet'], []],
  ['features/format', [...PAGE, ...SHARED_FEATURES, 'features/commands'], []],
  ['features/path', [...PAGE, ...SHARED_FEATURES, 'features/commands', 'features/sheet', 'features/clock'], []],
  [
    'features/help',
    [...PAGE, ...SHARED_FEATURES, 'features/commands', 'features/sheet', 'features/clock', 'features/format', 'features/path'],
    [],
  ],
  ...['shelf', 'bring', 'plan', 'draw', 'check', 'assemble', 'handover', 'counting', 'past'].map((stage) => [
    `features/${stage}`,
    [...PAGE, ...STAGE],
    [],
  ]),
  ['features/workspace', [...PAGE, ...STAGE, 'features/bring', 'features/help'], []],
];

const FROM_THE_TOP = {
  group: ['../**'],
  message: "Name another folder's file from the top, as '@/core/time/rate', so that the borders between rooms can be held.",
};

/** The globs of an import of a room: the folder's files, or the file. */
const importsOf = (room) => (room.endsWith('/**') ? [`@/${room}`] : [`@/${room}`, `@/${room}/**`]);

function roomSettings([room, allowed, packages]) {
  const mayImport = [room, ...allowed];
  const patterns = [
    FROM_THE_TOP,
    {
      group: ['@/**', ...mayImport.flatMap(importsOf).map((glob) => `!${glob}`)],
      message: `${room} may import ${allowed.length === 0 ? 'no other room' : allowed.join(', ')}. See scripts/borders.mjs.`,
    },
  ];
  if (packages.length > 0)
    patterns.push({
      group: packages.flatMap((name) => [name, `${name}/**`]),
      message: `${room} is free of this package. See scripts/borders.mjs.`,
    });
  return settingsFor([`src/${room}.ts`, `src/${room}/**`, '!**/*.test.ts'], patterns);
}

const settingsFor = (includes, patterns) => ({
  includes,
  linter: { rules: { style: { noRestrictedImports: { level: 'error', options: { patterns } } } } },
});

/** The linter's settings: those of biome.json, with the borders. */
export function withBorders(settings) {
  return { ...settings, overrides: [settingsFor(['src/**'], [FROM_THE_TOP]), ...BORDERS.map(roomSettings), ...settings.overrides] };
}
