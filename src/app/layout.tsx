import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Toaster } from 'sonner';
import './globals.css';

export const metadata: Metadata = {
  title: 'Lime Tick',
  description: 'Plan, draw, check and hand over frame-by-frame animation, with counts proved from plan to file.',
  icons: { icon: '/mark.svg' },
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        {children}
        <Toaster position="bottom-center" offset={72} toastOptions={{ className: 'font-sans', duration: 6000 }} />
      </body>
    </html>
  );
}
