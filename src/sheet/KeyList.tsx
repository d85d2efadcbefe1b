'use client';
import { Key, Panel } from '@/ui';

const KEYS: [string, string][] = [
  ['/', 'to the one input'],
  ['d', 'to what is to be done next'],
  ['1 … 7', 'unfold or fold a station'],
  ['u', 'take the last thing back'],
  ['f', 'the floor'],
  ['c', 'the catalogue'],
  ['o', 'the orders'],
  ['s', 'the shop: settings and backup'],
  ['?', 'this list'],
  ['Esc', 'one step back; nothing is lost'],
];

export default function KeyList({ onOpenChange }: { onOpenChange: (open: boolean) => void }) {
  return (
    <Panel open onOpenChange={onOpenChange} title="Keys">
      <dl className="grid grid-cols-[5rem_1fr] gap-y-1.5">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <Key>{key}</Key>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Panel>
  );
}
