'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { Floor } from '@/floor/Floor';
import { useOrders, useSettings } from '@/store/react';
import { cx, Notices } from '@/ui';
import { Boot } from './Boot';
import { DemoBar } from './DemoBar';
import { OneInput } from './OneInput';
import { NoRoomBar, SavedState } from './SavedState';
import { ThemeSwitch } from './ThemeSwitch';
import { KeyHelp } from './KeyHelp';
import { useSender } from './useSender';

const PAGES = [
  { href: '/catalogue', name: 'Catalogue' },
  { href: '/orders', name: 'Orders' },
  { href: '/shelf', name: 'Shelf' },
  { href: '/records', name: 'Records' },
  { href: '/shop', name: 'Shop' },
];

/** The one input on top of everything, the floor at the left, the page. */
export function Shell({ demo, children }: { demo: boolean; children: ReactNode }) {
  return (
    <>
      <Boot demo={demo}>
        <div className="flex h-dvh flex-col">
          <DemoBar />
          <NoRoomBar />
          <Copies />
          <Header />
          <div className="grid min-h-0 flex-1 grid-rows-1 md:grid-cols-[13.5rem_minmax(0,1fr)]">
            <Floor className="no-print hidden min-h-0 overflow-y-auto border-r border-line pt-3 pl-3.5 md:block" />
            <div className="flex min-h-0 min-w-0 flex-col">{children}</div>
          </div>
        </div>
        <KeyHelp />
      </Boot>
      <Notices />
    </>
  );
}

/** Loaded when the page has shown what it is for. */
const CopyReminder = dynamic(async () => (await import('./shop/CopyReminder')).CopyReminder, { ssr: false });

function Copies() {
  const settings = useSettings();
  return settings ? <CopyReminder zone={settings.zone} /> : null;
}

function Header() {
  const path = usePathname();
  const openOrders = useOrders(1);
  useSender();
  return (
    <header className="no-print flex flex-wrap items-center gap-x-4 gap-y-1.5 border-b-[1.5px] border-ink px-3 py-2 md:flex-nowrap md:px-4">
      <Link href="/" className="flex min-h-11 items-center text-[21px] font-bold tracking-tight md:w-[11.5rem]">
        Sorter
      </Link>
      <OneInput />
      <nav aria-label="Pages" className="order-2 ml-auto flex items-center gap-1 md:order-3">
        {PAGES.map(({ href, name }) => (
          <Link
            key={href}
            href={href}
            aria-current={path === href ? 'page' : undefined}
            className={cx(
              'flex min-h-11 items-center px-2 text-[15px]',
              // Five do not stand beside each other on a phone: there these are linked from the first page.
              (href === '/records' || href === '/shelf') && 'max-md:hidden',
              path === href && 'font-semibold underline decoration-2 underline-offset-8',
            )}
          >
            {name}
            {href === '/orders' && openOrders?.length ? <strong className="ml-1.5">{openOrders.length}</strong> : null}
          </Link>
        ))}
        <SavedState />
        <ThemeSwitch />
      </nav>
    </header>
  );
}
