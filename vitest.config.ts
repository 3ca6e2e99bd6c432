import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const CORE = 'src/core/**/*.test.ts';
const resolve = { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } };

export default defineConfig({
  test: {
    // By itself vitest leaves one core free, which on two cores is half of them.
    maxWorkers: 2,
    projects: [
      // The core holds nothing from one test to the next, so its files share a process: half of the time was starting them.
      { resolve, test: { name: 'core', include: [CORE], environment: 'node', testTimeout: 120_000, isolate: false } },
      {
        resolve,
        test: {
          name: 'house',
          include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'],
          exclude: [CORE],
          globalSetup: ['src/testing/newDatabase.ts'],
          setupFiles: ['src/testing/ownDataFolder.ts'],
          environment: 'node',
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
