import { create } from 'zustand';

/** Whether the help is open. */
export const useHelpStore = create<{ readonly isOpen: boolean }>(() => ({ isOpen: false }));

export const openHelp = (): void => useHelpStore.setState({ isOpen: true });
