'use client';
import { openHelp } from '@/features/help/helpStore';
import { Button } from '@/ui/Button';
import { Later, part } from '@/ui/later';

const helpAnywhere = part(async () => (await import('@/features/help/HelpAnywhere')).HelpAnywhere);

type Props = {
  /** Where the help opens: the name of a page of it. */
  readonly page: string;
  /** Whether what is needed first is there: the help itself comes after that. */
  readonly isCalm?: boolean;
  readonly className?: string;
};

/** The button of the help, and the help, for pages where no project is open. */
export function HelpHere({ page, isCalm = true, className }: Props) {
  return (
    <>
      <Button onClick={openHelp} title="Help (F1)" aria-label="Help" className={`shrink-0 ${className ?? ''}`}>
        ?
      </Button>
      {isCalm && <Later of={helpAnywhere} isWindow props={{ page }} />}
    </>
  );
}
