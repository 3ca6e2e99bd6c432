import type { Metadata } from 'next';
import { connection } from 'next/server';
import type { CSSProperties, ReactNode } from 'react';
import { Toaster } from 'sonner';
import './globals.css';

export const metadata: Metadata = {
  title: 'Lime Tick',
  description: 'Plan, draw, check and hand over frame-by-frame animation, with counts proved from plan to file.',
  icons: { icon: '/mark.svg' },
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Every page is written for its request: the programs in it carry a number that is made for that one.
  await connection();
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        {/* Before anything is painted: a page that turns dark at once hurts. */}
        <script src="/look.js" />
      </head>
      <body>
        {children}
        {/* Over the lower end of the right column, where there is nothing to press while one works on sheet and paper. */}
        <Toaster
          position="bottom-right"
          offset={{ bottom: 62, right: 14 }}
          style={{ '--width': '254px' } as CSSProperties}
          toastOptions={{ className: 'font-sans', duration: 6000 }}
        />
      </body>
    </html>
  );
}
