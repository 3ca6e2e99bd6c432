import { create } from 'zustand';

/** Which side of handing over is seen: what leaves, or what came back; and files that were dropped on the latter, until they are taken. */
export const useDeskView = create<{ readonly isCounting: boolean; readonly dropped: readonly File[] }>(() => ({
  isCounting: false,
  dropped: [],
}));

export const showCountingDesk = (isCounting: boolean): void => useDeskView.setState({ isCounting });

/** Lays files on the counting desk. */
export const dropOnDesk = (files: readonly File[]): void => useDeskView.setState({ dropped: files });
