'use client';
import Link from 'next/link';
import { useCallback, useEffect, useState } from 'react';
import type { StoreState } from '@/contracts/keep';
import { BACK_TO_SHELF } from '@/core/words';
import { HelpHere } from '@/features/help/HelpHere';
import { BackupPanel } from '@/features/shelf/BackupPanel';
import { FreePanel } from '@/features/shelf/FreePanel';
import { HealthPanel } from '@/features/shelf/HealthPanel';
import { RoomPanel } from '@/features/shelf/RoomPanel';
import { reasonOf } from '@/features/sync/reasonOf';
import { fetchStore } from '@/features/sync/shelfApi';
import { recallLook } from '@/ui/look';
import { Mark } from '@/ui/Mark';

/** The store: where everything lies, how full it is, what is backed up, and how the program is. */
export function StorePage() {
  const [state, setState] = useState<StoreState | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const load = useCallback(() => {
    setTrouble(null);
    return fetchStore().then(setState, (error: unknown) => setTrouble(reasonOf(error)));
  }, []);
  useEffect(() => {
    recallLook();
    void load();
  }, [load]);
  return (
    <div className="flex h-full flex-col">
      <header className="flex items-center gap-3 px-4 py-2">
        <Mark size={36} />
        <h1 className="font-bold font-head text-xl">The store</h1>
        <p className="min-w-0 flex-1 truncate text-soft">Where your films lie, how full it is, and what is backed up</p>
        <HelpHere page="store" />
        <Link href="/" className="underline">
          {BACK_TO_SHELF}
        </Link>
      </header>
      <main className="min-h-0 flex-1 overflow-y-auto px-2.5 pb-2.5">
        {trouble && (
          <p role="alert" className="panel mb-2.5 p-4 text-rust">
            {trouble}
          </p>
        )}
        {!state && !trouble && <p className="p-4 text-soft">Looking through the store …</p>}
        {state && (
          <div className="grid grid-cols-[minmax(0,1fr)] gap-2.5 min-[900px]:grid-cols-2">
            <div className="space-y-2.5">
              <RoomPanel state={state} />
              <FreePanel onFreed={() => void load()} />
            </div>
            <div className="space-y-2.5">
              <BackupPanel state={state} onChanged={load} />
              <HealthPanel state={state} />
            </div>
          </div>
        )}
      </main>
    </div>
  );
}
