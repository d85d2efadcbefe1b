'use client';
import { useState } from 'react';
import { shopOpen } from '@/store';
import { Ask, Button } from '@/ui';
import { FolderCopies } from './FolderCopies';
import { ReplaceShop } from './ReplaceShop';
import { useWholeShop } from './useWholeShop';
import { goToShop } from './whichShop';

/** Export, restore, wipe: everything in one file. */
export function BackupPanel({ zone }: { zone: string }) {
  const [emptying, setEmptying] = useState(false);
  const shop = useWholeShop();
  return (
    <section aria-label="Backup" className="mt-3 border-t-[3px] border-ink pt-2.5">
      <h2 className="text-lg font-semibold">Everything in one file</h2>
      <p className="max-w-prose text-[15px] text-soft">Your data live in this browser. Keep a copy elsewhere.</p>
      <ReplaceShop
        shop={shop}
        first={
          <Button tone="main" disabled={shop.busy} onClick={() => void shop.save()}>
            Export everything
          </Button>
        }
        last={
          shopOpen() === 'demo' ? null : (
            <>
              <Button tone="stop" disabled={shop.busy} onClick={() => setEmptying(true)}>
                Empty the shop
              </Button>
              <Button onClick={() => goToShop('demo')}>Look round in the demo shop</Button>
            </>
          )
        }
      />
      <FolderCopies zone={zone} />
      <Ask
        open={emptying}
        onOpenChange={setEmptying}
        title="Empty the shop?"
        yes="Empty it"
        danger
        onYes={() => {
          setEmptying(false);
          void shop.wipe();
        }}
      >
        All tickets, orders, customers, settings and the catalogue are removed from this browser. Export everything
        first if you may want it back.
      </Ask>
    </section>
  );
}
