import { describe, expect, it } from 'vitest';
import { lockedLevelOf } from '@/core/edit/locked';
import type { Step } from '@/core/edit/step';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const locked = { ...levelOf('Sock', '1*2 2*2'), locked: true };
const project = projectOf(shotOf([locked, levelOf('Line', '1*4')]));
const shotId = 'shot-010';
const onSock = { shotId, levelId: 'Sock' };
const onLine = { shotId, levelId: 'Line' };

describe('lockedLevelOf', () => {
  it.each<[string, Step, boolean]>([
    ['a picture', { type: 'setPicture', ...onSock, drawingId: 'Sock-1', picture: null }, true],
    ['an exposure', { type: 'setLength', ...onSock, atFrame: 0, frames: 3, following: 'push' }, true],
    ['charts', { type: 'setCharts', ...onSock, charts: [] }, true],
    ['removing the level', { type: 'removeLevel', ...onSock }, true],
    ['removing its shot', { type: 'removeShot', shotId }, true],
    ['a part of an edit', { type: 'together', words: '', steps: [{ type: 'removeExposure', ...onSock, atFrame: 0 }] }, true],
    ['another level', { type: 'removeExposure', ...onLine, atFrame: 0 }, false],
    ['unlocking it', { type: 'describeLevel', ...onSock, change: { locked: false } }, false],
    ['its place', { type: 'moveLevel', ...onSock, index: 1 }, false],
    ['the title', { type: 'renameProject', title: 'Two' }, false],
    ['a level that is gone', { type: 'removeLevel', shotId, levelId: 'gone' }, false],
  ])('%s: %o', (_what, step, isLocked) => expect(lockedLevelOf(project, step)?.id).toBe(isLocked ? 'Sock' : undefined));
});
