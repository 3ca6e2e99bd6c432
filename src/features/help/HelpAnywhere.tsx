'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo } from 'react';
import { loadKeys } from '@/features/commands/keyStore';
import { useKeys } from '@/features/commands/useKeys';
import { HelpDialog } from '@/features/help/HelpDialog';
import { openHelp, useHelpStore } from '@/features/help/helpStore';
import { projectCommands } from '@/features/help/projectCommands';
import { PLACES, placeCommands } from '@/features/path/places';

const NAMED = [...projectCommands, ...PLACES];

/** The help on pages where no project is open, and the keys that hold there; what it names are the commands of an open project. */
export function HelpAnywhere({ page }: { readonly page: string }) {
  const { push } = useRouter();
  const commands = useMemo(
    () => placeCommands({ 'counting-desk': () => push('/counting-desk'), shelf: () => push('/'), help: openHelp }),
    [push],
  );
  useKeys(commands);
  useEffect(() => {
    void loadKeys();
    // Another page's help is not left open.
    return () => useHelpStore.setState({ isOpen: false });
  }, []);
  return <HelpDialog commands={NAMED} page={page} />;
}
