import { useEffect } from 'react';
import { STAGE_NAMES, type Stage } from '@/features/path/stages';
import { inView } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { searchOf, viewIn } from '@/features/workspace/address';

/** An address is written once a person stays on a frame: browsers take so many changes of it in a while and no more. */
const STAYS_MILLISECONDS = 500;

/** Opens the shot and frame that the address says, else the first shot: as that one it stays open wherever it is moved. */
export function goToAddress(): void {
  const { project } = useProjectStore.getState();
  const said = project && viewIn(window.location.search, project);
  const shotId = said?.shotId ?? inView()?.shot.id;
  if (shotId !== undefined) goToShot(shotId, said?.frame);
}

/** Has the address say which shot and frame is open, and the window's title which project, shot and stage. */
export function useAddress(stage: Stage, isOpen: boolean): void {
  useEffect(() => {
    if (!isOpen) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const tell = () => {
      const view = inView();
      const title = useProjectStore.getState().project?.title;
      const words = [...(title ? [title] : []), ...(view ? [view.shot.code] : []), STAGE_NAMES[stage]].join(' · ');
      // Set with every step it would be told to the browser's own window each time.
      if (document.title !== words) document.title = words;
      clearTimeout(timer);
      if (!view || useViewStore.getState().playing) return;
      const search = searchOf(view.project, view.shot, view.frame);
      timer = setTimeout(() => {
        if (search !== window.location.search) window.history.replaceState(null, '', `${window.location.pathname}${search}`);
      }, STAYS_MILLISECONDS);
    };
    tell();
    const leave = [useViewStore.subscribe(tell), useProjectStore.subscribe(tell)];
    return () => {
      clearTimeout(timer);
      for (const each of leave) each();
      document.title = 'Lime Tick';
    };
  }, [stage, isOpen]);
}
