'use client';
import { formatDistanceToNow } from 'date-fns';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import type { StoreBrief } from '@/contracts/keep';
import { bytesText } from '@/core/bytes';
import { fetchStoreBrief } from '@/features/sync/shelfApi';

/** How full the store is and when it was backed up last, on the way to the page that says more. */
export function StoreLine() {
  const [brief, setBrief] = useState<StoreBrief | null>(null);
  useEffect(() => {
    // What can't be asked just now is on the page itself, with the reason.
    fetchStoreBrief().then(setBrief, () => setBrief(null));
  }, []);
  const words = brief && [
    bytesText(brief.sizeBytes),
    ...(brief.freeBytes === null ? [] : [`${bytesText(brief.freeBytes)} free`]),
    ...(brief.keepsBackups
      ? [brief.lastBackupAt ? `backed up ${formatDistanceToNow(new Date(brief.lastBackupAt), { addSuffix: true })}` : 'no backup yet']
      : []),
  ];
  return (
    <p className="text-xs">
      {words && <span className="text-soft">{words.join(' · ')} · </span>}
      <Link href="/store" className="underline">
        The store
      </Link>
    </p>
  );
}
