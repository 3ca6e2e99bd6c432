'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { keyText, type NamedCommand } from '@/features/commands/command';
import { keysOf } from '@/features/commands/keyStore';
import { HELP_PAGES, type HelpPage } from '@/features/help/helpPages';
import { useHelpStore } from '@/features/help/helpStore';
import { Says } from '@/features/help/Says';
import { takeTour } from '@/features/help/Tour';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';

const MOST_COMMANDS = 8;

const isIn = (text: string, words: readonly string[]) => words.every((word) => text.toLowerCase().includes(word));

/** Pages, each with what of it speaks of all the words that are sought. */
export function found(pages: readonly HelpPage[], search: string): readonly HelpPage[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return pages;
  return pages.flatMap((page) => {
    if (isIn(page.title, words)) return [page];
    const says = page.says.filter((text) => isIn(text, words));
    return says.length > 0 ? [{ ...page, says }] : [];
  });
}

type Props = {
  /** What the help names, with its keys. */
  readonly commands: readonly NamedCommand[];
  /** Where it opens: the name of a page of it, or of a stage. */
  readonly page: string;
};

/** The page the help opens at. */
export const firstPage = (of: string): string => HELP_PAGES.find(({ id, stage }) => id === of || stage === of)?.id ?? 'begin';

function Help({ commands, page, onClose }: Props & { onClose: () => void }) {
  const router = useRouter();
  const [search, setSearch] = useState('');
  const [chosen, setChosen] = useState(firstPage(page));
  const isSought = search.trim() !== '';
  const pages = isSought ? found(HELP_PAGES, search) : HELP_PAGES.filter(({ id }) => id === chosen);
  const needle = search.trim().toLowerCase();
  const matching = isSought ? commands.filter((command) => command.words().toLowerCase().includes(needle)).slice(0, MOST_COMMANDS) : [];
  return (
    <div className="mt-3 grid grid-cols-[150px_minmax(0,1fr)] gap-4">
      <nav aria-label="Pages of the help" className="space-y-0.5">
        {HELP_PAGES.map(({ id, title }) => (
          <button
            key={id}
            type="button"
            aria-current={!isSought && id === chosen ? 'page' : undefined}
            onClick={() => {
              setSearch('');
              setChosen(id);
            }}
            className={`block min-h-7 w-full rounded-lg px-2 py-1 text-left text-xs hover:bg-sunk ${!isSought && id === chosen ? 'bg-lime-wash font-semibold' : ''}`}
          >
            {title}
          </button>
        ))}
        <div className="pt-2">
          <Button
            onClick={() => {
              onClose();
              takeTour(router.push);
            }}
          >
            Ten minutes with Washday
          </Button>
        </div>
      </nav>
      <div className="min-w-0">
        <Field label="Find in the help, and among commands" value={search} onChange={setSearch} autoFocus />
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it is scrolled by keys, and there may be nothing in it to stop at */}
        <section className="mt-2 h-[46vh] overflow-y-auto pr-2" aria-live="polite" tabIndex={0} aria-label="The page of help">
          {pages.map((page) => (
            <section key={page.id} className="mb-3">
              <h3 className="font-bold">{page.title}</h3>
              {page.says.map((text) => (
                <Says key={text} text={text} commands={commands} />
              ))}
            </section>
          ))}
          {matching.length > 0 && (
            <section>
              <h3 className="font-bold">Commands</h3>
              <ul className="mt-1">
                {matching.map((command) => (
                  <li key={command.id} className="flex items-baseline justify-between gap-3 py-0.5">
                    <span>{command.words()}</span>
                    <span className="flex shrink-0 gap-1">
                      {keysOf(command).map((key) => (
                        <kbd key={key} className="numbers rounded border border-line bg-sunk px-1 text-2xs">
                          {keyText(key)}
                        </kbd>
                      ))}
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {isSought && pages.length === 0 && matching.length === 0 && (
            <p className="text-soft">Nothing found for “{search.trim()}”. Try another word.</p>
          )}
        </section>
      </div>
    </div>
  );
}

/** The help, opened where one is; it is all here and needs no network. */
export function HelpDialog({ commands, page }: Props) {
  const isOpen = useHelpStore((state) => state.isOpen);
  const close = () => useHelpStore.setState({ isOpen: false });
  return (
    <Dialog
      title="Help"
      about="What each stage is for and how it is worked with, with the shortcuts as they are set now."
      open={isOpen}
      onOpenChange={(open) => !open && close()}
    >
      {isOpen && <Help commands={commands} page={page} onClose={close} />}
    </Dialog>
  );
}
