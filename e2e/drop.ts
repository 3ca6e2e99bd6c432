import type { Page } from '@playwright/test';

type Dropped = { readonly name: string; readonly type: string; readonly bytes: Buffer };

/** Drops files on the page, as a person does from a folder. */
export async function drop(page: Page, files: readonly Dropped[]): Promise<void> {
  const data = await page.evaluateHandle(
    (given) => {
      const transfer = new DataTransfer();
      for (const { name, type, base64 } of given)
        transfer.items.add(new File([Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0))], name, { type }));
      return transfer;
    },
    files.map(({ name, type, bytes }) => ({ name, type, base64: bytes.toString('base64') })),
  );
  await page.dispatchEvent('body', 'drop', { dataTransfer: data });
}
