'use client';
import { useEffect, useRef, useState } from 'react';
import { Button } from '@/ui/Button';
import { Later, part } from '@/ui/later';

const packageWindow = part(async () => (await import('@/features/shelf/PackageWindow')).PackageWindow);

/** Brings in a package that is chosen here, or was dropped. */
export function BringPackage({ dropped }: { dropped: File | null }) {
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  useEffect(() => {
    if (dropped) setFile(dropped);
  }, [dropped]);
  return (
    <>
      <Button onClick={() => input.current?.click()} className="min-h-9 px-4 text-sm">
        Bring in a package
      </Button>
      <input
        ref={input}
        type="file"
        accept=".limetick,.zip"
        aria-label="A package"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          event.target.value = '';
          if (chosen) setFile(chosen);
        }}
      />
      {file && <Later of={packageWindow} props={{ file, onClose: () => setFile(null) }} isWindow />}
    </>
  );
}
