import { create } from 'zustand';

/** Whether the window for printing the sheet is open. */
export const usePrintStore = create<{ readonly open: boolean }>(() => ({ open: false }));
