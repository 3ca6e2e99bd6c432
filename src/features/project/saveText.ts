/** Gives a text to the person as a file under a name. */
export const saveText = (text: string, fileName: string, type: string): void => saveBlob(new Blob([text], { type }), fileName);

/** Gives a file to the person under a name. */
export function saveBlob(content: Blob, fileName: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(content);
  link.download = fileName;
  link.click();
  // The browser reads the file once the press is over.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
