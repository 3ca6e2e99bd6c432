/** What is compiled, where it ships, and under which name. */
export type Part = { readonly source: string; readonly target: string; readonly name: string };
export const PARTS: readonly Part[];
/** The file that ships. */
export function codeFile(part: Part): Promise<string>;
