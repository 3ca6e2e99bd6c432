import Link from 'next/link';
import { BACK_TO_SHELF } from '@/core/words';
import { SafePage } from '@/ui/SafePage';

export default function NotFoundPage() {
  return (
    <SafePage title="There is no such page">
      <p className="max-w-md text-soft">
        The address may be cut short, or what it led to was moved. Nothing of your work is touched by that.
      </p>
      <Link href="/" className="underline">
        {BACK_TO_SHELF}
      </Link>
    </SafePage>
  );
}
