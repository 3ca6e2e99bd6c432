import type { Project, Shot } from '@/core/document/model';
import { PRINTED_PARTS, type PrintedSounds } from '@/core/format/pdf/printedSounds';
import { inLanes, soundsOverShot } from '@/core/reel/sounds';
import { loudnessOf } from '@/core/sound/peaks';
import { recording } from '@/features/project/recordings';

/** Sounds over a shot as they are printed beside its frames; of one that can't be heard only where it lies. */
export async function soundsToPrint(project: Project, shot: Shot): Promise<PrintedSounds> {
  const heard = soundsOverShot(project, shot.id);
  const { laned, lanes } = inLanes(heard);
  const sounds = await Promise.all(
    laned.map(async ({ sound, lane, startFrame, endFrame }) => {
      const peaks = await recording(sound.recording.original).then(
        (decoded) => decoded.peaks,
        () => null,
      );
      const loudness = peaks ? loudnessOf(sound, peaks, project.rate, 0, endFrame - startFrame, PRINTED_PARTS) : [];
      return { name: sound.name, lane, startFrame, endFrame, loudness };
    }),
  );
  return { sounds, lanes: heard.length === 0 ? 0 : lanes };
}
