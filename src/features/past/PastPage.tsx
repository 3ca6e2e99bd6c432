'use client';
import { useEffect } from 'react';
import { PastFigures } from '@/features/past/PastFigures';
import { PastList } from '@/features/past/PastList';
import { PastMiddle } from '@/features/past/PastMiddle';
import { openPast } from '@/features/past/pastStore';
import { useProject } from '@/features/project/hooks';
import { Boundary } from '@/ui/Boundary';
import { Stage } from '@/ui/Stage';

/** The past of a project: moments on the left, the chosen one beside today's in the middle, counts and what can be taken out on the right. */
export function PastPage() {
  const { id } = useProject();
  useEffect(() => void openPast(id), [id]);
  return (
    <Stage
      name="past"
      leftPx={280}
      rightPx={300}
      left={
        <Boundary what="The moments" className="h-full">
          <PastList />
        </Boundary>
      }
      middle={
        <Boundary what="Then and now" className="h-full">
          <PastMiddle />
        </Boundary>
      }
      right={
        <Boundary what="The moment" className="h-full">
          <PastFigures />
        </Boundary>
      }
    />
  );
}
