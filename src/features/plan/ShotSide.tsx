'use client';
import { ShotSettings } from '@/features/plan/ShotSettings';
import { useShot } from '@/features/project/hooks';
import { LevelsPanel } from '@/features/sheet/LevelsPanel';

/** The open shot and its levels, beside the plan. */
export function ShotSide() {
  const shot = useShot();
  if (!shot) return null;
  return (
    <>
      <ShotSettings key={shot.id} shot={shot} />
      <LevelsPanel shot={shot} />
    </>
  );
}
