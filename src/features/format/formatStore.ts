import { create } from 'zustand';

/** Which window about the film's format is open. */
export const useFormatStore = create<{ readonly open: 'rate' | 'format' | null }>(() => ({ open: null }));
