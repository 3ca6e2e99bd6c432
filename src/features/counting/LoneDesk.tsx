'use client';
import Link from 'next/link';
import { useEffect } from 'react';
import { BACK_TO_SHELF } from '@/core/words';
import { DeskFigures } from '@/features/counting/DeskFigures';
import { DeskFiles } from '@/features/counting/DeskFiles';
import { DeskMiddle } from '@/features/counting/DeskMiddle';
import { putOnDesk } from '@/features/counting/deskStore';
import { HeldAgainstChoice } from '@/features/counting/HeldAgainstChoice';
import { HelpHere } from '@/features/help/HelpHere';
import { Boundary } from '@/ui/Boundary';
import { DropHere } from '@/ui/DropHere';
import { recallLook } from '@/ui/look';
import { Mark } from '@/ui/Mark';
import { Stage } from '@/ui/Stage';
import { useDroppedFiles } from '@/ui/useDroppedFiles';

const take = (files: readonly File[]): void => void putOnDesk(files);

/** The counting desk with no project open: files are counted, and held against each other and against receipts. */
export function LoneDesk() {
  const isDraggedOver = useDroppedFiles(take);
  useEffect(recallLook, []);
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] pb-2.5">
      <header className="flex items-center gap-3 px-4 py-2">
        <Mark size={36} />
        <h1 className="font-bold font-head text-xl">Counting desk</h1>
        <p className="min-w-0 flex-1 truncate text-soft">Any film, sequence or sound, counted frame by frame</p>
        <HelpHere page="counting" />
        <Link href="/" className="underline">
          {BACK_TO_SHELF}
        </Link>
      </header>
      <main className="min-h-0 px-2.5 max-[640px]:overflow-y-auto">
        <Stage
          name="counting-desk"
          leftPx={300}
          rightPx={330}
          left={
            <Boundary what="What came back">
              <DeskFiles top={null} against={<HeldAgainstChoice plans={null} />} />
            </Boundary>
          }
          middle={<DeskMiddle plan={null} acts={() => null} />}
          right={
            <Boundary what="The figures">
              <DeskFigures />
            </Boundary>
          }
        />
      </main>
      {isDraggedOver && <DropHere words="Drop to have these files counted" />}
    </div>
  );
}
