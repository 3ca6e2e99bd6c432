import type { ClipFacts } from '@/core/analysis/facts';
import type { Finding } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { placedItems } from '@/core/reel/reel';
import { framesInWords } from '@/core/time/frameWords';

/** Clips on the reel whose original is not in the store: nothing can be shown of them. */
export const missingClip = (project: Project, clips: ClipFacts): readonly Finding[] =>
  placedItems(project).flatMap(({ item, startFrame, endFrame }): readonly Finding[] => {
    if (item.kind !== 'clip' || clips.get(item.clip.original) !== 'missing') return [];
    return [
      {
        id: `missing-clip ${item.id}`,
        kind: 'missing-clip',
        group: 'pictures',
        breaks: 'check-assemble',
        sentence: `The file of the clip ${item.clip.fileName} is not in the store: nothing shows on ${framesInWords(startFrame, endFrame - 1, project.firstFrameNumber)} of the reel, and it can’t be handed over. Bring that very file in again to have it back.`,
        place: null,
        fixes: [
          {
            way: 'leave-clip-out',
            words: `Leave ${item.clip.fileName} out of the reel`,
            step: { type: 'removeItems', itemIds: [item.id] },
          },
        ],
      },
    ];
  });
