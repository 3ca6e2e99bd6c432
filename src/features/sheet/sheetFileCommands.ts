import type { Command } from '@/features/commands/command';
import { usePrintStore } from '@/features/sheet/printStore';
import { chooseSheetCsv, saveDetailsCsv, saveSheetCsv } from '@/features/sheet/sheetFiles';

const group = 'The sheet as a file';

/** Commands that bring the sheet out of the program and back. */
export const sheetFileCommands: readonly Command[] = [
  { id: 'print', group, words: () => 'Print the sheet as PDF …', keys: ['Mod+P'], run: () => usePrintStore.setState({ open: true }) },
  { id: 'csv-out', group, words: () => 'Save the sheet as CSV', keys: ['Alt+E'], run: saveSheetCsv },
  { id: 'csv-details', group, words: () => 'Save charts and sounds as CSV', keys: [], run: saveDetailsCsv },
  { id: 'csv-in', group, words: () => 'Bring in a sheet (CSV) …', keys: ['Alt+I'], run: chooseSheetCsv },
];
