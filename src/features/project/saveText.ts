/** Gives a file to the person under a name. */
export function saveText(text: string, fileName: string, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = fileName;
  link.click();
  // The browser reads the file once the press is over.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
