'use client';
import { useViewStore } from '@/features/project/viewStore';

/** Says over the picture that it is seen without the finish, as long as it is. */
export function FinishTag() {
  const isOff = useViewStore((state) => state.finishOff);
  if (!isOff) return null;
  return (
    <span role="status" className="absolute top-2 left-2 rounded bg-ink px-2 py-0.5 font-semibold text-paper text-xs">
      without the finish
    </span>
  );
}
