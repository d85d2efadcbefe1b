'use client';
import { shopOpen } from '@/store';
import { goToShop } from './shop/whichShop';

/** In the demo shop: whose it is, and the way out. */
export function DemoBar() {
  if (shopOpen() !== 'demo') return null;
  return (
    <aside
      aria-label="Demo shop"
      className="no-print flex flex-wrap items-center justify-between gap-x-4 bg-ink px-3 text-ground md:px-4"
    >
      <span className="text-[15px]">The demo shop. Nothing here is yours, and nothing of yours is here.</span>
      <button
        type="button"
        onClick={() => goToShop('own')}
        className="min-h-11 text-[15px] font-semibold underline underline-offset-4"
      >
        To my own shop
      </button>
    </aside>
  );
}
