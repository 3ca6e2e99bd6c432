const LONGEST = 46;

/** A file's name without what kind of file it is. */
export const titleOfFile = (fileName: string): string => fileName.replace(/(?<=.)\.[^.]*$/, '');

/** A name made of a file's: without what kind of file it is, its first letter large, and none of those that are taken. */
export function fileTitle(fileName: string, otherwise: string, taken: ReadonlySet<string>): string {
  const plain =
    fileName
      .replace(/\.[^.]*$/, '')
      .replace(/[_-]+/g, ' ')
      .trim()
      .slice(0, LONGEST) || otherwise;
  const base = `${plain.charAt(0).toUpperCase()}${plain.slice(1)}`;
  let name = base;
  for (let number = 2; taken.has(name); number++) name = `${base} ${number}`;
  return name;
}
