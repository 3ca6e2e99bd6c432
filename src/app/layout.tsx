import type { Metadata } from 'next';
import { connection } from 'next/server';
import type { ReactNode } from 'react';
import { Notices } from '@/ui/Notices';
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
        <Notices />
      </body>
    </html>
  );
}
