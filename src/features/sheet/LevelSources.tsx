'use client';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { LevelSource } from '@/contracts/bringIn';
import type { Level } from '@/core/document/model';
import { plural } from '@/core/time/counts';
import { useProject } from '@/features/project/hooks';
import { fetchSources } from '@/features/sync/api';

/** The files a level was brought in from, each to be saved again just as it was. */
export function LevelSources({ level }: { level: Level }) {
  const { id } = useProject();
  const [sources, setSources] = useState<readonly LevelSource[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was brought in changes with the level's drawings
  useEffect(() => {
    let current = true;
    fetchSources(id).then(
      (all) => current && setSources(all.filter((source) => source.levelId === level.id)),
      // The header tells when the server doesn't answer.
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [id, level.id, level.drawings.length]);
  if (sources.length === 0) return null;
  return (
    <Popover.Root>
      <Popover.Trigger className="mt-2 text-left text-soft text-xs underline hover:text-ink">
        Brought in from {plural(sources.length, 'file')}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content side="left" className="panel z-50 max-h-80 w-64 overflow-y-auto p-3 text-xs shadow-xl">
          <p className="mb-1 text-soft">As they were brought in, byte for byte:</p>
          <ul>
            {sources.map(({ original, fileName }) => (
              <li key={`${original}${fileName}`}>
                <a
                  className="block truncate underline"
                  href={`/api/originals/${original}?name=${encodeURIComponent(fileName)}`}
                  download={fileName}
                >
                  {fileName}
                </a>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
