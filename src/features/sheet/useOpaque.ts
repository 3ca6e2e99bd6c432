'use client';
import { useEffect, useState } from 'react';
import { pictures } from '@/features/project/pictures';
import { whenClosed } from '@/features/sync/projectStore';

/** Pictures are looked at this small: what shows through a whole small pixel is no accident. */
const LOOK_PX = 96;

const known = new Map<string, boolean>();
whenClosed(() => known.clear());

async function coversAll(digest: string): Promise<boolean> {
  const before = known.get(digest);
  if (before !== undefined) return before;
  const bitmap = await pictures.get(digest);
  const context = new OffscreenCanvas(LOOK_PX, LOOK_PX).getContext('2d', { willReadFrequently: true });
  context?.drawImage(bitmap, 0, 0, LOOK_PX, LOOK_PX);
  const data = context?.getImageData(0, 0, LOOK_PX, LOOK_PX).data ?? new Uint8ClampedArray(4);
  let opaque = true;
  for (let index = 3; index < data.length && opaque; index += 4) opaque = data[index] === 255;
  known.set(digest, opaque);
  return opaque;
}

/** Whether a picture covers everything below it, since nothing of it is transparent; false until it is known. */
export function useOpaque(digest: string | null): boolean {
  const [opaque, setOpaque] = useState(false);
  useEffect(() => {
    let current = true;
    setOpaque(false);
    if (digest)
      coversAll(digest).then(
        (is) => current && setOpaque(is),
        () => undefined,
      );
    return () => {
      current = false;
    };
  }, [digest]);
  return opaque;
}
