import { describe, expect, it } from 'vitest';
import { missingClip } from '@/core/check/missingClip';
import { trimPast } from '@/core/check/trimPast';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { clipItem, clipOf, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const shots = projectOf(shotOf([levelOf('A', '1*24')], 24));
const clip = clipOf(100);
const film = (item = clipItem('c', clip)) => ({ ...shots, reel: { ...shots.reel, items: [...shots.reel.items, item] } });

describe('a clip whose original is gone', () => {
  it('is told with its frames, and can be left out', () => {
    const [finding] = missingClip(film(), new Map([[clip.original, 'missing']]));
    expect(finding?.sentence).toContain('The file of the clip street.webm is not in the store: nothing shows on frames 25–120 of the reel');
    expect(finding?.breaks).toBe('check-assemble');
    const [fix] = finding?.fixes ?? [];
    expect(fix && mustBeDone(applyStep(film(), fix.step)).reel.items).toEqual(shots.reel.items);
  });
  it.each([
    ['there', new Map([[clip.original, 'there' as const]])],
    ['not asked for yet', new Map()],
  ])('is not told while it is %s', (_what, facts) => expect(missingClip(film(), facts)).toEqual([]));
});

describe('a trim past the end of a clip', () => {
  it('is told with both numbers, and can be trimmed or shown whole', () => {
    const [finding] = trimPast(film({ ...clipItem('c', clip), trim: { fromFrame: 90, frames: 10 } }));
    expect(finding?.sentence).toBe(
      'The reel shows frames 91 to 100 of the clip street, which ends with frame 96: on the last 4 frames, up to frame 34 of the reel, there is paper.',
    );
    expect(finding?.fixes.map(({ words }) => words)).toEqual(['Trim it to the 6 frames there are', 'Show the clip street whole']);
  });
});
