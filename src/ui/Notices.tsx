'use client';
import { type ComponentProps, type ComponentType, type CSSProperties, useEffect, useState } from 'react';
import type { Toaster, toast } from 'sonner';
import { whenCalm } from '@/ui/later';
import { noticesAreShownBy, whenNoticeWaits, wordsWaiting } from '@/ui/toast';

type Shower = { readonly Shown: ComponentType<ComponentProps<typeof Toaster>>; readonly shows: typeof toast };

const AGAIN_MILLISECONDS = 3000;
/** How many are shown plainly at once, the latest of them. */
const MOST_PLAIN = 3;

/** Where notices are shown: over the lower end of the right column, where there is nothing to press while one works on sheet and paper. */
export function Notices() {
  const [shower, setShower] = useState<Shower | null>(null);
  const [plain, setPlain] = useState<readonly string[]>([]);
  useEffect(() => {
    let isOver = false;
    let timer = 0;
    let isAsked = false;
    const load = () => {
      if (isAsked) return;
      isAsked = true;
      import('sonner').then(
        (loaded) => !isOver && setShower({ Shown: loaded.Toaster, shows: loaded.toast }),
        () => {
          // The server does not answer just now: what there is to be said is said plainly.
          isAsked = false;
          setPlain(wordsWaiting().slice(-MOST_PLAIN));
          timer = window.setTimeout(load, AGAIN_MILLISECONDS);
        },
      );
    };
    whenNoticeWaits(load);
    const callOff = whenCalm(load);
    return () => {
      isOver = true;
      callOff();
      clearTimeout(timer);
    };
  }, []);
  // It listens once it is there, and hears nothing that was said before.
  useEffect(() => {
    if (shower) noticesAreShownBy(shower.shows);
  }, [shower]);
  if (!shower)
    return plain.length === 0 ? null : (
      <div role="alert" className="fixed right-3.5 bottom-[62px] z-50 flex w-[254px] flex-col gap-2">
        {plain.map((words) => (
          <p key={words} className="rounded-lg border border-line bg-paper p-3 text-xs shadow">
            {words}
          </p>
        ))}
      </div>
    );
  const { Shown } = shower;
  return (
    <Shown
      position="bottom-right"
      offset={{ bottom: 62, right: 14 }}
      style={{ '--width': '254px' } as CSSProperties}
      toastOptions={{ className: 'font-sans', duration: 6000 }}
    />
  );
}
