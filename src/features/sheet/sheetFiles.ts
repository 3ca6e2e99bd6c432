import { detailsDifferences, takeDetails } from '@/core/edit/detailsEdits';
import { tableDifferences } from '@/core/edit/tableDifferences';
import { type TableChoices, takeTable } from '@/core/edit/tableEdits';
import { isDetailsCsv, readDetailsCsv, writeDetailsCsv } from '@/core/format/csv/detailsCsv';
import { readSheetCsv, writeSheetCsv } from '@/core/format/csv/sheetCsv';
import { BRING_IN } from '@/core/words';
import { type Answers, ask } from '@/features/commands/ask';
import { contextNow } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { saveText } from '@/features/project/saveText';
import { useViewStore } from '@/features/project/viewStore';
import { toast } from '@/ui/toast';

const LARGEST_CSV_BYTES = 64 * 1024 * 1024;

function saveCsv(text: string, fileName: string): void {
  saveText(text, fileName, 'text/csv;charset=utf-8');
  toast.message(`${fileName} is saved.`);
}

/** Saves the open shot's sheet as CSV. */
export function saveSheetCsv(): void {
  const view = inView();
  if (view) saveCsv(writeSheetCsv(view.shot, view.project.firstFrameNumber), `${view.project.title} ${view.shot.code} sheet.csv`);
}

/** Saves the open shot's charts and sounds as CSV. */
export function saveDetailsCsv(): void {
  const view = inView();
  if (view)
    saveCsv(writeDetailsCsv(view.shot, view.project.firstFrameNumber), `${view.project.title} ${view.shot.code} charts and sounds.csv`);
}

/** Asks whether charts and sounds of a table are to be taken, with what that does; nothing is changed by one that makes no sense. */
function askForDetails(text: string, fileName: string): void {
  const view = inView();
  if (!view) return;
  const table = readDetailsCsv(text, view.project.firstFrameNumber);
  if (!table.ok) {
    toast.error(`${fileName}: ${table.reason} Nothing was changed.`, { duration: 12_000 });
    return;
  }
  ask({
    title: `Bring in ${fileName}`,
    about: `Charts and sounds for shot ${view.shot.code}. Levels, drawings and sounds are found by their names; a level that is in the table has its charts and no others.`,
    confirm: BRING_IN,
    fields: [],
    parts: () => detailsDifferences(contextNow(view), table.value),
    read: (_answers, isTaken) => takeDetails(contextNow(view), table.value, isTaken),
  });
}

const choicesOf = ({ missing, unknown, length }: Answers): TableChoices => ({
  missingDrawings: missing === 'plan' ? 'plan' : 'refuse',
  unknownColumns: unknown === 'add' ? 'add' : 'refuse',
  length: length === 'stays' ? 'stays' : 'follows',
});

/** Asks how a CSV sheet is to be taken, with what it will do; nothing is changed by a file that makes no sense. */
function askToTake(text: string, fileName: string): void {
  const view = inView();
  if (!view) return;
  const table = readSheetCsv(text, view.project.firstFrameNumber);
  if (!table.ok) {
    toast.error(`${fileName}: ${table.reason} Nothing was changed.`, { duration: 12_000 });
    return;
  }
  ask({
    title: `Bring in ${fileName}`,
    about: `For the sheet of shot ${view.shot.code}. Columns find their levels by name; levels without a column stay as they are.`,
    confirm: BRING_IN,
    fields: [
      {
        id: 'missing',
        label: 'Drawings a level doesn’t have',
        start: 'refuse',
        options: [
          { value: 'refuse', label: 'don’t bring it in' },
          { value: 'plan', label: 'plan them' },
        ],
      },
      {
        id: 'unknown',
        label: 'Columns without a level',
        start: 'refuse',
        options: [
          { value: 'refuse', label: 'don’t bring it in' },
          { value: 'add', label: 'add levels' },
        ],
      },
      {
        id: 'length',
        label: 'The shot’s length',
        start: 'follows',
        options: [
          { value: 'follows', label: 'as the file' },
          { value: 'stays', label: 'stays as it is' },
        ],
      },
    ],
    parts: (answers) => tableDifferences(contextNow(view), table.value, choicesOf(answers)),
    read: (answers, isTaken) => takeTable(contextNow(view), table.value, choicesOf(answers), isTaken),
    done: () => useViewStore.setState({ selection: null }),
  });
}

/** Lets a CSV file be chosen and asks how to take it. */
export function chooseSheetCsv(): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.accept = '.csv,.tsv,.txt,text/csv';
  input.addEventListener('change', () => {
    const file = input.files?.[0];
    if (!file) return;
    if (file.size > LARGEST_CSV_BYTES) {
      toast.error(`${file.name} has ${Math.ceil(file.size / 1024 / 1024)} MiB; a sheet of 64 MiB is the most that is taken.`);
      return;
    }
    file.text().then(
      (text) => (isDetailsCsv(text) ? askForDetails : askToTake)(text, file.name),
      () => toast.error(`${file.name} can’t be read.`),
    );
  });
  input.click();
}
