'use client';
import { useSettings } from '@/store/react';
import { BackupPanel } from './BackupPanel';
import { SettingsForm } from './SettingsForm';

/** The shop's own figures, and everything in one file. */
export function ShopPage() {
  const settings = useSettings();
  return (
    <main className="relative min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-[23px] font-bold">{settings?.shopName ?? 'Shop'}</h1>
      <BackupPanel />
      {settings ? <SettingsForm settings={settings} /> : null}
    </main>
  );
}
