'use client';
import { usePathname, useRouter } from 'next/navigation';
import { type ReactNode, useEffect, useLayoutEffect, useMemo, useState } from 'react';
import { BACK_TO_SHELF } from '@/core/words';
import { Clock } from '@/features/clock/Clock';
import { hearFrames } from '@/features/clock/scrubSound';
import { AskDialog } from '@/features/commands/AskDialog';
import { takeCarriedFiles, takeFiles } from '@/features/commands/bringFiles';
import { type Command, keyText } from '@/features/commands/command';
import { loadKeys } from '@/features/commands/keyStore';
import { useClipboard } from '@/features/commands/useClipboard';
import { useKeys } from '@/features/commands/useKeys';
import { openHelp } from '@/features/help/helpStore';
import { projectCommands } from '@/features/help/projectCommands';
import { recoverStrokes } from '@/features/ink/recoverStrokes';
import { dropOnDesk, showCountingDesk, useDeskView } from '@/features/path/deskView';
import { Path } from '@/features/path/Path';
import { FIND_KEY, placeCommands } from '@/features/path/places';
import { goToPast, goToStage, isPastAddress, STAGE_NAMES, STAGES, type Stage, showsSheet, stageOf } from '@/features/path/stages';
import { useClipsThere } from '@/features/project/clips';
import { recallDesk, rememberDesk } from '@/features/project/deskMemory';
import { useProject } from '@/features/project/hooks';
import { workOnReel } from '@/features/project/navigation';
import { useRateMoves } from '@/features/project/rateMove';
import { useListening } from '@/features/project/recordings';
import { resetView, useViewStore } from '@/features/project/viewStore';
import { recallPerson, usePeople } from '@/features/sync/people';
import { useProjectStore } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';
import { closeSession, openSession } from '@/features/sync/session';
import { goToShelf } from '@/features/workspace/goToShelf';
import { KeptWords } from '@/features/workspace/KeptWords';
import { People } from '@/features/workspace/People';
import { ShotMenu } from '@/features/workspace/ShotMenu';
import { goToAddress, useAddress } from '@/features/workspace/useAddress';
import { usePresence } from '@/features/workspace/usePresence';
import { Boundary } from '@/ui/Boundary';
import { Button } from '@/ui/Button';
import { DropHere } from '@/ui/DropHere';
import { Later, loadAllParts, part } from '@/ui/later';
import { recallLook } from '@/ui/look';
import { Mark } from '@/ui/Mark';
import { useDroppedFiles } from '@/ui/useDroppedFiles';
import { warmPreview, warmWorkers } from '@/workers/client';

// Windows come after what is looked at first.
const bringDialog = part(async () => (await import('@/features/bring/BringDialog')).BringDialog);
const clipDialog = part(async () => (await import('@/features/bring/ClipDialog')).ClipDialog);
const soundDialog = part(async () => (await import('@/features/bring/SoundDialog')).SoundDialog);
const traceDialog = part(async () => (await import('@/features/bring/TraceDialog')).TraceDialog);
const finder = part(async () => (await import('@/features/commands/Finder')).Finder);
const keysDialog = part(async () => (await import('@/features/commands/KeysDialog')).KeysDialog);
const formatDialog = part(async () => (await import('@/features/format/FormatDialog')).FormatDialog);
const rateDialog = part(async () => (await import('@/features/format/RateDialog')).RateDialog);
const helpDialog = part(async () => (await import('@/features/help/HelpDialog')).HelpDialog);
const tour = part(async () => (await import('@/features/help/Tour')).Tour);
const printDialog = part(async () => (await import('@/features/sheet/PrintDialog')).PrintDialog);
const setAside = part(async () => (await import('@/features/workspace/SetAside')).SetAside);
const soundsDialog = part(async () => (await import('@/features/sound/SoundsDialog')).SoundsDialog);

function Opening({ failure }: { failure: string | null }) {
  return (
    <main className="flex h-full flex-col items-center justify-center gap-4 p-8 text-center">
      <Mark size={48} />
      {failure ? (
        <>
          <p role="alert" className="max-w-md text-base">
            {failure}
          </p>
          <div className="flex items-center gap-4">
            <Button onClick={() => serverRetryer.wake()}>Try now</Button>
            <a href="/" className="underline">
              {BACK_TO_SHELF}
            </a>
          </div>
        </>
      ) : (
        <p className="text-soft">Opening the project …</p>
      )}
    </main>
  );
}

function useEveryCommand(projectId: string, openFinder: () => void): readonly Command[] {
  const router = useRouter();
  return useMemo(
    () => [
      ...projectCommands,
      ...placeCommands({
        ...Object.fromEntries(STAGES.map((stage) => [`stage-${stage}`, () => goToStage(projectId, stage)])),
        'stage-hand-over': () => {
          showCountingDesk(false);
          goToStage(projectId, 'hand-over');
        },
        'counting-desk': () => {
          showCountingDesk(true);
          goToStage(projectId, 'hand-over');
        },
        past: () => goToPast(projectId),
        shelf: () => void goToShelf(() => router.push('/')),
        help: openHelp,
        find: openFinder,
      }),
    ],
    [projectId, router, openFinder],
  );
}

/** Listens to the project's recordings, and lets frames be heard that are stepped to. */
function Listening() {
  useListening(useProject());
  useClipsThere(useProject());
  useRateMoves(useProject());
  useEffect(hearFrames, []);
  return null;
}

type Props = { readonly projectId: string; readonly stages: Readonly<Record<Stage, ReactNode>>; readonly past: ReactNode };

/** What stands around every stage of an open project, and around its past: title, path, what is kept, the finder, the clock. */
export function Workspace({ projectId, stages, past }: Props) {
  const isOpen = useProjectStore((state) => state.project?.id === projectId);
  const failure = useProjectStore((state) => state.failure);
  const paperAlone = useViewStore((state) => state.paperAlone);
  const isAside = useProjectStore((state) => state.aside.length > 0);
  const isShared = usePeople((state) => state.isShared);
  const pathname = usePathname();
  const stage = stageOf(pathname);
  const isPast = isPastAddress(pathname);
  const [finding, setFinding] = useState(false);
  const [isCalm, setCalm] = useState(false);
  const [recoveredId, setRecoveredId] = useState<string | null>(null);
  const openFinder = useMemo(() => () => setFinding(true), []);
  const commands = useEveryCommand(projectId, openFinder);
  useKeys(commands);
  useClipboard();
  const isCounting = useDeskView((state) => state.isCounting) && stage === 'hand-over';
  const isDraggedOver = useDroppedFiles(isCounting ? dropOnDesk : takeFiles);

  useEffect(() => {
    resetView();
    recallDesk(projectId);
    const forgetDesk = rememberDesk(projectId);
    warmPreview();
    recallLook();
    recallPerson();
    void loadKeys();
    let current = true;
    // Nothing may be drawn before strokes of the last visit lie where they belong: it would be drawn without them.
    void openSession(projectId)
      .then(recoverStrokes)
      .finally(() => {
        if (!current) return;
        goToAddress();
        setRecoveredId(projectId);
      });
    return () => {
      current = false;
      forgetDesk();
      closeSession();
    };
  }, [projectId]);

  const windowsGone = useProjectStore((state) => state.windowsGone);
  useEffect(() => {
    if (windowsGone > 0) void recoverStrokes();
  }, [windowsGone]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: playback belongs to the stage it was started on
  useEffect(() => useViewStore.setState({ playing: false, paperAlone: false }), [stage]);

  const helpPage = isPast ? 'past' : isCounting ? 'counting' : stage;

  const isShown = isOpen && recoveredId === projectId;
  const isOnReel = isShown && !isPast && stage === 'assemble';
  // Before anything can be pressed or dropped: what is brought in on Assemble is for the reel, though its panels are still on their way.
  useLayoutEffect(() => (isOnReel ? workOnReel() : undefined), [isOnReel]);
  const sheetInSight = isShown && !isPast && showsSheet(stage);
  useLayoutEffect(() => useViewStore.setState({ sheetInSight }), [sheetInSight]);
  useAddress(isPast ? null : stage, isShown);
  usePresence(projectId, isPast ? 'past' : stage, isShown);
  useEffect(() => {
    if (!isShown) return;
    // The others would keep the stage waiting for them.
    warmWorkers();
    return loadAllParts(() => {
      setCalm(true);
      takeCarriedFiles();
    });
  }, [isShown]);

  if (!isShown) return <Opening failure={failure} />;
  return (
    <div
      className={`grid h-full grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto] ${paperAlone ? '' : 'cramped:grid-rows-[minmax(0,1fr)_auto]'}`}
    >
      {/* Where there is little room, as on a zoomed page, all of it is scrolled: what stands above leaves the room to the work; the clock stays. */}
      <div className={`contents ${paperAlone ? '' : 'cramped:block cramped:min-h-0 cramped:overflow-y-auto'}`}>
        <header
          hidden={paperAlone}
          className="isolate grid grid-cols-[minmax(110px,1fr)_auto_minmax(110px,1fr)] items-center gap-x-3 gap-y-1 px-4 py-2 max-[1000px]:grid-cols-2 [&[hidden]]:hidden"
        >
          <ShotMenu />
          <div className="min-w-0 max-[1000px]:order-last max-[1000px]:col-span-2">
            <Boundary what="The path">
              <Path stage={isPast ? null : stage} />
            </Boundary>
          </div>
          <div className="flex min-w-0 items-center justify-end gap-3">
            {isAside && <Later of={setAside} isWindow props={{}} />}
            <People />
            <KeptWords onPress={() => goToPast(projectId)} />
            <Button onClick={openHelp} title="Help (F1)" aria-label="Help" className="shrink-0">
              ?
            </Button>
            <Button onClick={openFinder} title={`Find a command (${keyText(FIND_KEY)})`} className="shrink-0">
              Find {isAside || isShared ? null : <kbd className="numbers text-2xs max-[1150px]:hidden">{keyText(FIND_KEY)}</kbd>}
            </Button>
          </div>
        </header>
        <main className={`row-start-2 min-h-0 px-2.5 ${paperAlone ? '' : 'cramped-room'}`}>
          <Boundary key={isPast ? 'past' : stage} what={isPast ? 'The past' : `The stage ${STAGE_NAMES[stage]}`} className="h-full">
            {isPast ? past : stages[stage]}
          </Boundary>
        </main>
      </div>
      <div className={`row-start-3 min-w-0 ${paperAlone ? '' : 'cramped:row-start-2'} ${isPast ? 'pb-2.5' : ''}`}>
        {!isPast && (
          <Boundary what="The clock">
            <Clock />
          </Boundary>
        )}
      </div>
      {isCalm && <Later of={finder} isWindow props={{ commands, open: finding, onOpenChange: setFinding }} />}
      <Boundary what="A window">
        {isCalm && (
          <>
            <Later of={keysDialog} isWindow props={{ commands }} />
            <Later of={helpDialog} isWindow props={{ commands, page: helpPage }} />
            <Later of={tour} isWindow props={{ commands }} />
            <Later of={bringDialog} isWindow props={{}} />
            <Later of={traceDialog} isWindow props={{}} />
            <Later of={soundDialog} isWindow props={{}} />
            <Later of={clipDialog} isWindow props={{}} />
            <Later of={soundsDialog} isWindow props={{}} />
          </>
        )}
        <Listening />
      </Boundary>
      {isDraggedOver && <DropHere words={isCounting ? 'Drop to have these files counted' : 'Drop to bring these files in'} />}
      <Boundary what="A window">
        <AskDialog />
        {isCalm && <Later of={rateDialog} isWindow props={{}} />}
        {isCalm && <Later of={formatDialog} isWindow props={{}} />}
        {isCalm && <Later of={printDialog} isWindow props={{}} />}
      </Boundary>
    </div>
  );
}
