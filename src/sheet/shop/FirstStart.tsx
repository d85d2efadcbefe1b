'use client';
import { goToShop } from './whichShop';

const DOORS = [
  {
    shop: 'own',
    name: 'Set up my shop',
    what: 'Name, currency, tax and what an hour costs; each has a default. Then type the number on a plate and begin: no catalogue is needed.',
  },
  {
    shop: 'demo',
    name: 'Look round in the demo shop',
    what: 'A made-up shop with machines on the bench, a catalogue, orders and customers. It lies apart: nothing that you do there touches your own shop.',
  },
] as const;

/** The first start: two doors. */
export function FirstStart() {
  return (
    <main className="mx-auto flex w-full max-w-3xl flex-col gap-5 p-6 pt-[14vh]">
      <div>
        <h1 className="text-3xl font-bold tracking-tight">Sorter</h1>
        <p className="mt-1 text-lg text-soft">
          Which machine this is, why it fails, which part mends it, whether it is worth it, and whether it is proved.
        </p>
      </div>
      <div className="grid gap-4 sm:grid-cols-2">
        {DOORS.map(({ shop, name, what }) => (
          <button
            key={shop}
            type="button"
            onClick={() => goToShop(shop)}
            className="flex min-h-44 flex-col gap-2 rounded-sm border-2 border-ink bg-sheet p-5 text-left shadow-[inset_0_7px_0_var(--mark)]"
          >
            <span className="mt-1 text-xl font-bold">{name}</span>
            <span className="text-soft">{what}</span>
          </button>
        ))}
      </div>
      <p className="text-[15px] text-soft">
        Everything stays in this browser. A backup of another one is restored on the page after the first door.
      </p>
    </main>
  );
}
