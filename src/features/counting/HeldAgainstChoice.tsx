'use client';
import { type ReactNode, useRef, useState } from 'react';
import { receiptReader } from '@/contracts/receipt';
import { type Against, holdAllAgainst, useDeskStore } from '@/features/counting/deskStore';
import { forgetPictures } from '@/features/counting/framePictures';
import { Button } from '@/ui/Button';
import { toast } from '@/ui/toast';
import { countingDesk } from '@/workers/client';

/** A receipt's file as what others are held against. */
async function receiptIn(file: File): Promise<Against | null> {
  try {
    const read = receiptReader.read(JSON.parse(await file.text()));
    if (read.ok) return { kind: 'receipt', name: file.name, receipt: read.value };
    toast.error(read.reason);
  } catch {
    toast.error(`${file.name} is not a receipt: it is not JSON.`);
  }
  return null;
}

/** Has a package's reel looked at and the things held against it; `tell` says how far that is, null once it is over. */
async function holdAgainstPackage(file: File, tell: (words: string | null) => void): Promise<void> {
  tell('The package is being looked at …');
  try {
    // What reads packages comes with the first one.
    const { packageOrder } = await import('@/features/counting/packageOrder');
    const order = await packageOrder(file);
    if (!order.ok) {
      toast.error(`${file.name}: ${order.reason}`);
      return;
    }
    const key = `package ${crypto.randomUUID()}`;
    const { name, size, firstNumber, frames: all } = order.value.held;
    forgetPictures();
    const isSeen = await countingDesk.plan(key, order.value, (frames) =>
      tell(`The package is being looked at: ${frames} of ${all} frames`),
    );
    if (isSeen) holdAllAgainst({ kind: 'plan', key, name, view: { side: { kind: 'plan', id: key }, name, size, firstNumber } });
  } catch (error) {
    toast.error(`${file.name} could not be looked at: ${error instanceof Error ? error.message : String(error)}`);
  } finally {
    tell(null);
  }
}

/** What the things on the desk are held against. `plans` are the open project's, where one is open. */
export function HeldAgainstChoice({ plans }: { plans: ReactNode }) {
  const against = useDeskStore((state) => state.against);
  const things = useDeskStore((state) => state.things);
  const receipt = useRef<HTMLInputElement>(null);
  const packed = useRef<HTMLInputElement>(null);
  const [packageWords, setWords] = useState<string | null>(null);
  const holdingWords = useDeskStore((state) => state.holdingWords);
  const words = packageWords ?? holdingWords;
  const isPackage = against.kind === 'plan' && against.view !== null;
  const others = things.filter(({ kind }) => kind === 'counted');
  return (
    <section aria-label="Held against" className="space-y-1.5">
      <h2 className="font-bold font-head text-base">Held against</h2>
      <div className="flex flex-wrap gap-1.5">
        {plans}
        {others.length > 1 &&
          others.map(({ id, name }) => (
            <Button
              key={id}
              kind={against.kind === 'thing' && against.id === id ? 'dark' : 'plain'}
              aria-pressed={against.kind === 'thing' && against.id === id}
              onClick={() => holdAllAgainst({ kind: 'thing', id, name })}
              className="max-w-full"
            >
              <span className="truncate">{name}</span>
            </Button>
          ))}
        <Button
          kind={against.kind === 'receipt' ? 'dark' : 'plain'}
          aria-pressed={against.kind === 'receipt'}
          onClick={() => receipt.current?.click()}
        >
          {against.kind === 'receipt' ? against.name : 'A receipt …'}
        </Button>
        <Button kind={isPackage ? 'dark' : 'plain'} aria-pressed={isPackage} onClick={() => packed.current?.click()}>
          {isPackage ? against.name : 'A package …'}
        </Button>
        <Button
          kind={against.kind === 'nothing' ? 'dark' : 'plain'}
          aria-pressed={against.kind === 'nothing'}
          onClick={() => holdAllAgainst({ kind: 'nothing' })}
        >
          Nothing
        </Button>
      </div>
      {words && (
        <p role="status" className="flex items-center justify-between gap-2 text-soft text-xs">
          {words}
          <Button onClick={() => void countingDesk.stopPlan()}>Stop</Button>
        </p>
      )}
      {others.length < 2 && <p className="text-2xs text-soft">Put a second file on the desk to hold one against the other.</p>}
      <input
        ref={receipt}
        type="file"
        accept=".json,application/json"
        hidden
        onChange={async ({ target }) => {
          const file = target.files?.[0];
          target.value = '';
          const found = file && (await receiptIn(file));
          if (found) holdAllAgainst(found);
        }}
      />
      <input
        ref={packed}
        type="file"
        accept=".limetick"
        hidden
        data-testid="desk-package"
        onChange={({ target }) => {
          const file = target.files?.[0];
          target.value = '';
          if (file) void holdAgainstPackage(file, setWords);
        }}
      />
    </section>
  );
}
