/** Words that a spreadsheet would take for a formula, with an apostrophe before them. */
export const armoured = (words: string): string => (/^'*[=+\-@\t\r]/.test(words) ? `'${words}` : words);

/** Words as they were before `armoured`. */
export const bare = (cell: string): string => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);
