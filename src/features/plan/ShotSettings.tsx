'use client';
import { useState } from 'react';
import type { Shot } from '@/core/document/model';
import { sizeText } from '@/core/document/size';
import { lengthCounts, lengthSentence, parseLength } from '@/core/time/counts';
import { rateFraction } from '@/core/time/rate';
import { useProject } from '@/features/project/hooks';
import { make } from '@/features/sync/session';
import { CommitField } from '@/ui/Field';

/** The open shot's code, name, length and note, and the note on the current frame. */
export function ShotSettings({ shot }: { shot: Shot }) {
  const project = useProject();
  const [lengthText, setLengthText] = useState(String(shot.frames));
  const typed = parseLength(lengthText, project.rate);
  const counts = lengthCounts(shot.frames, project.rate);
  const changed = typed.ok && typed.value !== shot.frames;
  const said = changed
    ? `${lengthSentence(typed.value, project.rate)}. Enter sets it.`
    : `${counts.seconds} s · ${counts.timecode} · ${counts.footage} ft`;
  return (
    <section aria-label="Shot settings" className="space-y-2.5 p-3.5">
      <h2 className="font-bold">
        Shot {shot.code}{' '}
        <span className="numbers font-normal text-2xs text-soft">
          {sizeText(project.size)}, {rateFraction(project.rate)}
        </span>
      </h2>
      <div className="grid grid-cols-[72px_1fr] gap-2">
        <CommitField
          label="Code"
          value={shot.code}
          maxLength={30}
          onCommit={(code) => make({ type: 'describeShot', shotId: shot.id, code: code.trim() })}
        />
        <CommitField
          label="Name"
          value={shot.name}
          maxLength={120}
          onCommit={(name) => make({ type: 'describeShot', shotId: shot.id, name })}
        />
      </div>
      <CommitField
        label="Length, as 96, 4s12, 00:00:04:00 or 6+00"
        className="tabular-nums"
        value={String(shot.frames)}
        onChange={setLengthText}
        said={said}
        wrong={typed.ok ? undefined : typed.reason}
        onCommit={(text) => {
          const length = parseLength(text, project.rate);
          if (length.ok) make({ type: 'setShotLength', shotId: shot.id, frames: length.value });
        }}
      />
      <CommitField
        label="Note"
        value={shot.note}
        maxLength={4000}
        onCommit={(note) => make({ type: 'describeShot', shotId: shot.id, note })}
      />
    </section>
  );
}
