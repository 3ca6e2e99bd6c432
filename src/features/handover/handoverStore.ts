import { toast } from 'sonner';
import { create } from 'zustand';
import type { FramePlan } from '@/core/handover/framePlan';
import type { Project } from '@/core/sheet/document';
import { restPreviews, wakePreviews } from '@/features/clock/previews';
import { baseNameOf, chosenRange, framesToChoose, type Recipe, START_RECIPE } from '@/features/handover/recipe';
import { postReceipt } from '@/features/sync/api';
import { useProjectStore } from '@/features/sync/projectStore';
import { untilKept } from '@/features/sync/session';
import { settled } from '@/features/sync/settling';
import { type HandoverProgress, type HandoverResult, startHandover } from '@/workers/client';

/** A handover under way. */
type Running = {
  readonly fileName: string;
  readonly progress: HandoverProgress | null;
  readonly startedAt: number;
  readonly stop: () => void;
};

type HandoverState = {
  readonly recipe: Recipe;
  readonly running: Running | null;
  /** Why the last one ended without a file. */
  readonly trouble: string | null;
  /** Files written in this visit, by receipt, that can be saved again. */
  readonly files: ReadonlyMap<string, { readonly storedAs: string; readonly fileName: string }>;
};

/** Handovers go on while other stages are looked at, so their state outlives the screen. */
export const useHandoverStore = create<HandoverState>(() => ({ recipe: START_RECIPE, running: null, trouble: null, files: new Map() }));

/** Saves a written file from the browser's private folder to where downloads go. */
export async function saveFile(storedAs: string, fileName: string): Promise<void> {
  const root = await navigator.storage.getDirectory();
  const folder = await root.getDirectoryHandle('handovers');
  const file = await (await folder.getFileHandle(storedAs)).getFile();
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** Removes files of earlier visits from the browser's private folder: they were saved then, or given up. */
async function clearOldFiles(): Promise<void> {
  const root = await navigator.storage.getDirectory();
  const folder = await root.getDirectoryHandle('handovers', { create: true });
  const current = new Set([...useHandoverStore.getState().files.values()].map((file) => file.storedAs));
  for await (const name of folder.keys()) if (!current.has(name)) await folder.removeEntry(name).catch(() => undefined);
}

async function keepReceiptOf(project: Project, plan: FramePlan, recipe: Recipe, result: HandoverResult): Promise<void> {
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  const receipt = await postReceipt(project.id, {
    id: crypto.randomUUID(),
    fileName: result.fileName,
    kind: recipe.kind,
    fileBytes: result.fileBytes,
    fileDigest: result.fileDigest,
    shotId: recipe.shotId,
    whole: fromFrame === 0 && toFrame === framesToChoose(project, recipe.shotId) - 1,
    withBackground: recipe.withBackground,
    planDigest: result.planDigest,
    holdColours: plan.holdColours,
    pictures: result.composited,
    asked: { frames: plan.frames, rate: plan.rate, width: plan.size.width, height: plan.size.height, firstNumber: plan.firstNumber },
    counted: {
      ...result.counted,
      repeatFrames: [...result.counted.repeatFrames],
      wrongFrames: [...result.counted.wrongFrames],
      mistimedFrames: [...result.counted.mistimedFrames],
    },
  });
  if (result.storedAs) {
    const file = { storedAs: result.storedAs, fileName: result.fileName };
    useHandoverStore.setState((state) => ({ files: new Map(state.files).set(receipt.id, file) }));
    await saveFile(file.storedAs, file.fileName);
  }
  useProjectStore.setState((state) => (state.project?.id === project.id ? { receipts: [receipt, ...state.receipts] } : {}));
}

/** Hands over what a plan says; the receipt is kept with the project and the file saved. */
export async function handOver(plan: FramePlan, recipe: Recipe): Promise<void> {
  if (useHandoverStore.getState().running) return;
  useHandoverStore.setState({ trouble: null });
  let folder: FileSystemDirectoryHandle | null = null;
  if (recipe.kind === 'png-folder') {
    folder = await window.showDirectoryPicker({ mode: 'readwrite' }).catch(() => null);
    if (!folder) return;
  }
  await settled();
  if (!(await untilKept())) {
    useHandoverStore.setState({
      trouble:
        'The server doesn’t answer, so not every drawing is kept yet. Nothing was written: start the server again and hand over then.',
    });
    return;
  }
  const { project } = useProjectStore.getState();
  if (!project) return;
  const baseName = baseNameOf(project, recipe);
  const ground = recipe.withBackground || recipe.kind === 'mp4' || recipe.kind === 'webm' ? 'paper' : 'none';
  try {
    await clearOldFiles();
    await restPreviews();
    const running = startHandover({ plan, kind: recipe.kind, baseName, ground }, folder, (progress) =>
      useHandoverStore.setState((state) => (state.running ? { running: { ...state.running, progress } } : {})),
    );
    useHandoverStore.setState({ running: { fileName: baseName, progress: null, startedAt: performance.now(), stop: running.stop } });
    const end = await running.end;
    if (end.kind === 'written') await keepReceiptOf(project, plan, recipe, end.result);
    else if (end.kind === 'refused') useHandoverStore.setState({ trouble: end.reason });
    else toast.message('Stopped. Nothing was left behind.');
  } catch (error) {
    useHandoverStore.setState({
      trouble: `The handover failed: ${error instanceof Error ? error.message : 'for an unknown reason'}. Nothing was kept of it.`,
    });
  } finally {
    wakePreviews();
    useHandoverStore.setState({ running: null });
  }
}
