'use client';
import { useSettingsRow } from '@/store/react';
import { BackupPanel } from './BackupPanel';
import { TakeOver } from './TakeOver';
import { SettingsForm } from './SettingsForm';

/** The shop's own figures, and everything in one file. */
export function ShopPage() {
  const row = useSettingsRow();
  return (
    <main className="relative min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-[23px] font-bold">{row?.settings.shopName ?? 'Shop'}</h1>
      <BackupPanel zone={row?.settings.zone ?? 'UTC'} />
      <TakeOver />
      {row ? <SettingsForm row={row} /> : null}
    </main>
  );
}
