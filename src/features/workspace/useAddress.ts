import { useEffect } from 'react';
import { STAGE_NAMES, type Stage } from '@/features/path/stages';
import { inView } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { searchOf, viewIn } from '@/features/workspace/address';

/** Address and title are written once a person stays on a frame: browsers take so many changes of them in a while and no more. */
const STAYS_MILLISECONDS = 500;

/** Opens the shot and frame that the address says, else the first shot: as that one it stays open wherever it is moved. */
export function goToAddress(): void {
  const { project } = useProjectStore.getState();
  const said = project && viewIn(window.location.search, project);
  const shotId = said?.shotId ?? inView()?.shot.id;
  if (shotId !== undefined) goToShot(shotId, said?.frame);
}

/**
 * Writes the part of the address behind the stage. The browser's own call, not the router's in its place: to the router each
 * change of the address is a going somewhere, and one that it has under way (to another project, to the shelf) would be given up.
 */
const writeSearch = (search: string): void =>
  History.prototype.replaceState.call(window.history, window.history.state, '', `${window.location.pathname}${search}`);

/** Has the address say which shot and frame is open, and the window's title which project, shot and stage (null: the past). */
export function useAddress(stage: Stage | null, isOpen: boolean): void {
  useEffect(() => {
    if (!isOpen) return;
    let [timer, changedAt] = [0, 0];
    const tell = () => {
      const view = inView();
      const title = useProjectStore.getState().project?.title;
      document.title = [...(title ? [title] : []), ...(view ? [view.shot.code] : []), stage ? STAGE_NAMES[stage] : 'Past'].join(' · ');
      if (!view || useViewStore.getState().playing) return;
      const search = searchOf(view.project, view.shot, view.frame);
      if (search !== window.location.search) writeSearch(search);
    };
    // Asked for once and put off when it comes: a timer for each of many changes takes longer.
    const look = () => {
      const leftMilliseconds = changedAt + STAYS_MILLISECONDS - performance.now();
      timer = leftMilliseconds > 0 ? window.setTimeout(look, leftMilliseconds) : 0;
      if (timer === 0) tell();
    };
    const tellSoon = () => {
      changedAt = performance.now();
      timer ||= window.setTimeout(look, STAYS_MILLISECONDS);
    };
    tell();
    const leave = [useViewStore.subscribe(tellSoon), useProjectStore.subscribe(tellSoon)];
    return () => {
      window.clearTimeout(timer);
      for (const each of leave) each();
      document.title = 'Lime Tick';
    };
  }, [stage, isOpen]);
}
