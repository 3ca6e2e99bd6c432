'use client';
import { useEffect } from 'react';
import { Choice } from '@/ui/Choice';
import { recallLook, setLook, type Theme, useLookStore } from '@/ui/look';

const WORDS: Readonly<Record<Theme, string>> = { system: 'System', day: 'Day', night: 'Night' };

/** How the program looks, with more contrast where wished. */
export function LookChoice() {
  const { theme, moreContrast } = useLookStore();
  useEffect(recallLook, []);
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 text-xs">
      <span className="flex items-center gap-2">
        <span className="text-soft">Theme</span>
        <Choice
          label="Theme"
          value={theme}
          options={(Object.keys(WORDS) as Theme[]).map((value) => ({ value, label: WORDS[value] }))}
          onChange={(value) => setLook({ theme: value })}
        />
      </span>
      <label className="flex min-h-7 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-ink"
          checked={moreContrast}
          onChange={(event) => setLook({ moreContrast: event.target.checked })}
        />
        More contrast
      </label>
    </div>
  );
}
