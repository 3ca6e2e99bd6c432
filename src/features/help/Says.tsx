import { keyText, type NamedCommand } from '@/features/commands/command';
import { keysOf } from '@/features/commands/keyStore';

/** A paragraph in which `[play]` stands for the shortcut that the command of that name has now. */
export function Says({ text, commands }: { text: string; commands: readonly NamedCommand[] }) {
  let at = 0;
  const parts = text.split(/(\[[a-z-]+\])/).map((part) => {
    const start = at;
    at += part.length;
    return { part, start };
  });
  return (
    <p className="mt-1.5">
      {parts.map(({ part, start }) => {
        const command = part.startsWith('[') ? commands.find(({ id }) => id === part.slice(1, -1)) : undefined;
        if (!command) return <span key={start}>{part}</span>;
        const [key] = keysOf(command);
        return (
          <kbd key={start} className="numbers rounded border border-line bg-sunk px-1 text-2xs">
            {key ? keyText(key) : command.words()}
          </kbd>
        );
      })}
    </p>
  );
}
