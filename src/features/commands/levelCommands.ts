import { type Level, type LevelId, type LevelKind, newLevel, type Shot } from '@/core/document/model';
import type { LevelDescription } from '@/core/edit/step';
import { sheetColumns } from '@/core/sheet/columns';
import { plural } from '@/core/time/counts';
import { type Command, partOf } from '@/features/commands/command';
import { newId } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { make } from '@/features/sync/session';
import { toast } from '@/ui/toast';

const group = 'Levels';

export const LEVEL_KINDS: Readonly<Record<LevelKind, string>> = {
  animated: 'Animated: drawings with exposures',
  still: 'Still: one drawing for the whole shot',
  guide: 'Guide: to draw after, never handed over',
};

/** Adds a level and goes to it: a still one behind all others, any other in front. */
export function addLevel(shot: Shot, kind: LevelKind): void {
  const used = new Set(shot.levels.map((level) => level.name));
  let number = shot.levels.length + 1;
  while (used.has(`Level ${number}`)) number++;
  const level = newLevel(newId(), `Level ${number}`, kind);
  if (make({ type: 'addLevel', shotId: shot.id, level, index: kind === 'still' ? 0 : shot.levels.length }))
    useViewStore.setState({ levelId: level.id, selection: null });
}

/** Puts a level where another one is; the others close up. */
export function moveLevelTo(shot: Shot, levelId: LevelId, overLevelId: LevelId): void {
  const index = shot.levels.findIndex((level) => level.id === overLevelId);
  if (index >= 0 && levelId !== overLevelId) make({ type: 'moveLevel', shotId: shot.id, levelId, index });
}

/** Moves the level of now one column to the right (1) or left (−1). */
function moveColumn(direction: -1 | 1): void {
  const view = inView();
  if (!view?.level) return;
  const columns = sheetColumns(view.shot);
  const next = columns[columns.indexOf(view.level) + direction];
  if (next && columns.includes(view.level)) moveLevelTo(view.shot, view.level.id, next.id);
}

/** Changes what is said about a level. */
export const describeLevel = (shot: Shot, level: Level, change: LevelDescription): boolean =>
  make({ type: 'describeLevel', shotId: shot.id, levelId: level.id, change });

/** Shows one level alone on the desk, or all again; only while working, never in what leaves. */
export const toggleAlone = (levelId: LevelId | null): void =>
  useViewStore.setState((state) => ({ aloneLevelId: state.aloneLevelId === levelId || state.aloneLevelId ? null : levelId }));

const NARROWEST_PX = 40;
const WIDEST_PX = 160;

/** Makes the sheet's columns so wide, in px; null lets them share the room there is. */
export const setColumnWidth = (widthPx: number | null): void =>
  useViewStore.setState({ columnWidthPx: widthPx === null ? null : Math.round(Math.max(NARROWEST_PX, Math.min(WIDEST_PX, widthPx))) });

const widen = (byPx: number) => setColumnWidth((useViewStore.getState().columnWidthPx ?? 56) + byPx);

function removeLevel(): void {
  const view = inView();
  if (!view?.level) return;
  const { level, shot } = view;
  if (make({ type: 'removeLevel', shotId: shot.id, levelId: level.id })) {
    useViewStore.setState({ levelId: null, selection: null });
    toast.message(`${level.name} is removed with its ${plural(level.drawings.length, 'drawing')}. Undo brings it back.`);
  }
}

const noLevel = () => (inView()?.level ? null : 'no level here');

const KEYS: Readonly<Record<LevelKind, readonly string[]>> = { animated: ['Shift+L'], still: [], guide: [] };

/** Commands on levels and on the sheet's columns. */
export const levelCommands: readonly Command[] = partOf('sheet', [
  ...(Object.keys(LEVEL_KINDS) as LevelKind[]).map(
    (kind): Command => ({
      id: `level-${kind}`,
      group,
      words: () => `New level. ${LEVEL_KINDS[kind]}`,
      keys: KEYS[kind],
      run: () => {
        const view = inView();
        if (view) addLevel(view.shot, kind);
      },
    }),
  ),
  {
    id: 'level-move-right',
    group,
    words: () => `Move ${inView()?.level?.name ?? 'the level'} one column to the right (further behind)`,
    keys: ['Alt+Shift+ArrowRight'],
    hindrance: noLevel,
    run: () => moveColumn(1),
  },
  {
    id: 'level-move-left',
    group,
    words: () => `Move ${inView()?.level?.name ?? 'the level'} one column to the left (further in front)`,
    keys: ['Alt+Shift+ArrowLeft'],
    hindrance: noLevel,
    run: () => moveColumn(-1),
  },
  {
    id: 'level-remove',
    group,
    words: () => {
      const level = inView()?.level;
      return level ? `Remove level ${level.name} with its ${plural(level.drawings.length, 'drawing')}` : 'Remove the level';
    },
    keys: ['Alt+Shift+Backspace'],
    hindrance: noLevel,
    run: removeLevel,
  },
  {
    id: 'level-lock',
    group,
    words: () => `${inView()?.level?.locked ? 'Unlock' : 'Lock'} ${inView()?.level?.name ?? 'the level'}`,
    keys: ['Alt+L'],
    hindrance: noLevel,
    run: () => {
      const view = inView();
      if (view?.level) describeLevel(view.shot, view.level, { locked: !view.level.locked });
    },
  },
  {
    id: 'level-alone',
    group,
    words: () => (useViewStore.getState().aloneLevelId ? 'Show all levels again' : `Show ${inView()?.level?.name ?? 'the level'} alone`),
    keys: ['S'],
    hindrance: noLevel,
    run: () => toggleAlone(inView()?.level?.id ?? null),
  },
  {
    id: 'level-visible',
    group,
    words: () => `${inView()?.level?.visible ? 'Hide' : 'Show'} ${inView()?.level?.name ?? 'the level'}`,
    keys: ['Alt+H'],
    hindrance: noLevel,
    run: () => {
      const view = inView();
      if (view?.level) describeLevel(view.shot, view.level, { visible: !view.level.visible });
    },
  },
  { id: 'columns-wider', group, words: () => 'Wider columns', keys: ['Alt+.'], run: () => widen(8) },
  { id: 'columns-narrower', group, words: () => 'Narrower columns', keys: ['Alt+,'], run: () => widen(-8) },
  { id: 'columns-share', group, words: () => 'Columns share the available room', keys: [], run: () => setColumnWidth(null) },
  {
    id: 'places',
    group,
    words: () =>
      useViewStore.getState().showsPlaces ? 'Hide the charts’ fractions on the sheet' : 'Show the charts’ fractions on the sheet',
    keys: ['Alt+T'],
    run: () => useViewStore.setState((state) => ({ showsPlaces: !state.showsPlaces })),
  },
]);
