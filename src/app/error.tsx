'use client';
import { BACK_TO_SHELF } from '@/core/words';
import { Button } from '@/ui/Button';
import { SafePage } from '@/ui/SafePage';

export default function ErrorPage({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <SafePage title="This page could not be shown">
      <p role="alert" className="max-w-md text-soft">
        What you did is safe: it is saved, or waits in this browser until it is. <span className="numbers">({error.message})</span>
      </p>
      <div className="flex gap-2">
        <Button kind="go" onClick={reset}>
          Try again
        </Button>
        <Button onClick={() => window.location.assign('/')}>{BACK_TO_SHELF}</Button>
      </div>
    </SafePage>
  );
}
