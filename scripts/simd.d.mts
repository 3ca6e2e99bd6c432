/** The compiled code as base64. */
export function compiled(): Promise<string>;
/** The file that ships. */
export function codeFile(code: string): string;
