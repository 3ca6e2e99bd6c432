import type { Command } from '@/features/commands/command';
import { usePrintStore } from '@/features/sheet/printStore';
import { laterDo } from '@/ui/later';

const withFiles = laterDo(() => import('@/features/sheet/sheetFiles'));

const group = 'The sheet as a file';

/** Commands that bring the sheet out of the program and back. */
export const sheetFileCommands: readonly Command[] = [
  { id: 'print', group, words: () => 'Print the sheet as PDF …', keys: ['Mod+P'], run: () => usePrintStore.setState({ open: true }) },
  {
    id: 'csv-out',
    group,
    words: () => 'Save the sheet as CSV',
    keys: ['Alt+E'],
    run: () => withFiles(({ saveSheetCsv }) => saveSheetCsv()),
  },
  {
    id: 'csv-details',
    group,
    words: () => 'Save charts and sounds as CSV',
    keys: [],
    run: () => withFiles(({ saveDetailsCsv }) => saveDetailsCsv()),
  },
  {
    id: 'csv-in',
    group,
    words: () => 'Bring in a sheet (CSV) …',
    keys: ['Alt+I'],
    run: () => withFiles(({ chooseSheetCsv }) => chooseSheetCsv()),
  },
];
