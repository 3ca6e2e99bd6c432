/** A PDF to look at or to keep; `plainName` is what it is called where other names can't be read. */
export const pdfResponse = ({ fileName, pdf }: { readonly fileName: string; readonly pdf: Uint8Array }, plainName: string): Response =>
  new Response(new Uint8Array(pdf), {
    headers: {
      'Content-Type': 'application/pdf',
      'Content-Disposition': `inline; filename="${plainName}"; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'Cache-Control': 'no-store',
    },
  });
