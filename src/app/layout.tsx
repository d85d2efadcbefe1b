import type { Metadata, Viewport } from 'next';
import { connection } from 'next/server';
import type { ReactNode } from 'react';
import { Shell } from '@/sheet/Shell';
import './globals.css';

export const metadata: Metadata = {
  title: 'Sorter',
  description: 'Which machine, why it fails, which part mends it, and whether it is worth it.',
};
export const viewport: Viewport = { width: 'device-width', initialScale: 1, themeColor: '#eceeea' };

export default async function RootLayout({ children }: { children: ReactNode }) {
  // The policy's nonce changes with each request, so no page can be static.
  await connection();
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Shell demo={process.env['SORTER_DEMO'] === '1'}>{children}</Shell>
      </body>
    </html>
  );
}
