import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

// Before each file of tests: none works on the data of whoever runs them, or of another file that runs beside it.
process.env.LIME_TICK_DATA = mkdtempSync(path.join(tmpdir(), 'lime-tick-test-'));
delete process.env.DATABASE_URL;
