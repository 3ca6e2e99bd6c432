'use client';
import { memo } from 'react';
import type { Shot } from '@/core/document/model';
import { Player } from '@/features/clock/Player';
import { CardsBoard } from '@/features/plan/CardsBoard';
import { EmptyShot, isEmptyShot } from '@/features/plan/EmptyShot';
import { PathBoard, PathWords } from '@/features/plan/PathBoard';
import { type BOARDS, usePlanStore } from '@/features/plan/planStore';
import { ShownCards } from '@/features/plan/ShownCards';
import { useSize } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Choice } from '@/ui/Choice';
import { Fitted } from '@/ui/Fitted';

type Board = (typeof BOARDS)[number];

const WORDS: readonly { value: Board; label: string; title: string }[] = [
  { value: 'picture', label: 'Picture', title: 'What is drawn so far, as it will be handed over' },
  { value: 'cards', label: 'Cards', title: 'A card a level with its drawing’s number' },
  { value: 'path', label: 'On the path', title: 'Cards moving along a motion path you draw, by the timing chart' },
];

const SHOWS: Record<Exclude<Board, 'path'>, string> = {
  picture: 'What is drawn so far, as it will be handed over',
  cards: 'A card a level, at the true rate',
};

/** What the board shows; not made anew with every step. */
const BoardChoice = memo(function BoardChoice({ board }: { board: Board }) {
  return (
    <span className="ml-auto shrink-0 max-[480px]:shrink">
      <Choice
        label="What the plan board shows"
        value={board}
        options={WORDS}
        onChange={(value) => usePlanStore.setState({ board: value })}
      />
    </span>
  );
});

/** The plan as it moves at the true rate, before anything is drawn. */
export const PlanBoard = memo(function PlanBoard({ shot }: { shot: Shot }) {
  const size = useSize();
  const board = usePlanStore((state) => state.board);
  // A sound alone is played as well: then the board is there, with nothing on it yet.
  const playing = useViewStore((state) => state.playing);
  const isEmpty = isEmptyShot(shot) && !playing;
  return (
    <section aria-label="Plan board" className="flex min-h-0 flex-1 flex-col">
      <header className="flex items-center gap-2 px-3 py-1.5 max-[480px]:flex-wrap">
        {board === 'path' ? <PathWords shot={shot} /> : <p className="truncate text-soft text-xs">{SHOWS[board]}</p>}
        <BoardChoice board={board} />
      </header>
      <div className="relative flex min-h-0 flex-1 flex-col gap-2 bg-desk p-2.5">
        {isEmpty && <EmptyShot shot={shot} />}
        {board === 'picture' && (
          <Fitted width={size.width} height={size.height} className="flex-1">
            <Player className="h-full w-full" />
          </Fitted>
        )}
        {board === 'cards' && <CardsBoard shot={shot} />}
        {board === 'path' && (
          <Fitted width={size.width} height={size.height} className="flex-1">
            <PathBoard shot={shot} />
          </Fitted>
        )}
        {!isEmpty && board !== 'cards' && <ShownCards shot={shot} />}
      </div>
    </section>
  );
});
