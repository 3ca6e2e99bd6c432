import { describe, expect, it } from 'vitest';
import { mustBeDone } from '@/core/outcome';
import { CONTAINER_CODECS, CONTAINERS, canBeTransparent, keyFramesOf, optionsIn, startFilmOptions } from '@/core/output/film';
import { renderPlanOf } from '@/core/render/renderPlan';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const project = projectOf(shotOf([levelOf('A', '1*2 2*3 3*4', { pictures: 'abc' })], 9));
const plan = mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: 8, withBackground: true }));

describe('key frames', () => {
  it.each([
    [{ at: 'every', frames: 4 } as const, [0, 4, 8]],
    [{ at: 'every', frames: 600 } as const, [0]],
    [{ at: 'changes' } as const, [0, 2, 5]],
    [{ at: 'all' } as const, [0, 1, 2, 3, 4, 5, 6, 7, 8]],
  ])('%o stand on %o', (keyFrames, frames) => expect([...keyFramesOf(plan, keyFrames)]).toEqual(frames));
});

describe('what is asked of a film', () => {
  it('starts with what its container carries', () => {
    for (const container of CONTAINERS) {
      const { video, sound } = startFilmOptions(container);
      expect(CONTAINER_CODECS[container].video).toContain(video);
      expect(CONTAINER_CODECS[container].sound).toContain(sound);
    }
  });
  it('goes along to another container as far as that carries it', () => {
    for (const from of CONTAINERS)
      for (const to of CONTAINERS) {
        const options = optionsIn(to, { ...startFilmOptions(from), title: 'Socks', transparency: true });
        expect(CONTAINER_CODECS[to].video).toContain(options.video);
        expect(CONTAINER_CODECS[to].sound).toContain(options.sound);
        expect(options.title).toBe('Socks');
        expect(options.transparency).toBe(canBeTransparent(to, options));
      }
    expect(optionsIn('webm', { ...startFilmOptions('mp4'), sound: null }).sound).toBeNull();
    expect(optionsIn('mkv', { ...startFilmOptions('webm'), video: 'av1', transparency: true }).transparency).toBe(false);
  });
});
