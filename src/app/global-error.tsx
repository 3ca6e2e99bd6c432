'use client';
import { BACK_TO_SHELF } from '@/core/words';
import { Button } from '@/ui/Button';
import { SafePage } from '@/ui/SafePage';
import './globals.css';

export default function GlobalErrorPage({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <html lang="en">
      <body>
        <SafePage title="Lime Tick could not be shown">
          <p role="alert" className="max-w-md">
            What you did is safe: it is saved, or waits in this browser until it is. <span>({error.message})</span>
          </p>
          <div className="flex gap-2">
            <Button kind="go" onClick={reset}>
              Try again
            </Button>
            <Button onClick={() => window.location.assign('/')}>{BACK_TO_SHELF}</Button>
          </div>
        </SafePage>
      </body>
    </html>
  );
}
