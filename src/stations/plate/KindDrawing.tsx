/** Small drawings of how a machine is built, 48 by 48: lines only, so that they read in light and dark. Each stands beside the words that say the same. */
const DRAWINGS: Readonly<Record<string, string>> = {
  front: 'M9 5h30v38H9zM9 12h30M24 28m-10 0a10 10 0 1 0 20 0a10 10 0 1 0-20 0M13 8.5h6',
  top: 'M9 10h30v33H9zM9 16h30M14 10l3-7h14l3 7M33 13h3',
  belt: 'M24 17m-12 0a12 12 0 1 0 24 0a12 12 0 1 0-24 0M24 40m-4 0a4 4 0 1 0 8 0a4 4 0 1 0-8 0M12 20l8 19M36 20l-8 19',
  direct:
    'M24 24m-17 0a17 17 0 1 0 34 0a17 17 0 1 0-34 0M24 24m-11 0a11 11 0 1 0 22 0a11 11 0 1 0-22 0M24 7v6M24 35v6M7 24h6M35 24h6M24 24h.1',
  coupled: 'M13 5h22v14H13zM24 19v4M16 23h16v8H16zM24 31v3M17 34h14v9H17z',
  'belt-gearbox': 'M11 5h22v12H11zM22 17v3M15 20h14v9H15zM22 29v5M14 36h16M36 22h8v12h-8zM40 34v4M30 34h10M30 39h10',
  brushes:
    'M24 24m-9 0a9 9 0 1 0 18 0a9 9 0 1 0-18 0M24 24m-3 0a3 3 0 1 0 6 0a3 3 0 1 0-6 0M3 20h11v8H3zM34 20h11v8H34zM8 20v-5M40 20v-5',
  inverter: 'M12 14h24v20H12zM17 34v9M24 34v9M31 34v9M16 24c3-8 5-8 8 0s5 8 8 0',
  induction: 'M8 14h20v20H8zM28 24h6M36 12h7v24h-7zM38 12V8M41 12V8M13 19v10M18 19v10M23 19v10',
  'pump-own': 'M14 26m-9 0a9 9 0 1 0 18 0a9 9 0 1 0-18 0M23 21h13v10H23zM14 17V8h8M36 24h6M36 28h6',
  'pump-driven': 'M24 12m-7 0a7 7 0 1 0 14 0a7 7 0 1 0-14 0M24 19v8M24 35m-8 0a8 8 0 1 0 16 0a8 8 0 1 0-16 0M32 35h10',
  dampers:
    'M24 22m-11 0a11 11 0 1 0 22 0a11 11 0 1 0-22 0M9 4l3 3-3 3 3 3 4 3M39 4l-3 3 3 3-3 3-4 3M16 31l-6 12M32 31l6 12M13 34l3 2M35 34l-3 2',
  rods: 'M12 20h24v20H12zM9 4v26M39 4v26M6 30h6M36 30h6M7 33h4M37 33h4M8 36h2M38 36h2',
  'base-springs': 'M12 5h24v24H12zM16 29l3 3-6 3 6 3-3 4M32 29l-3 3 6 3-6 3 3 4M8 43h32',
  timer: 'M24 24m-16 0a16 16 0 1 0 32 0a16 16 0 1 0-32 0M24 24l8-8M24 8v3M24 37v3M8 24h3M37 24h3',
  electronic: 'M6 11h36v26H6zM11 16h16v9H11zM14 30h2M22 30h2M33 17h4M33 23h4M33 29h4',
};

export function KindDrawing({ name }: { name: string | undefined }) {
  const path = name === undefined ? undefined : DRAWINGS[name];
  if (!path) return null;
  return (
    <svg viewBox="0 0 48 48" className="size-12 shrink-0" aria-hidden="true">
      <path d={path} fill="none" stroke="currentColor" strokeWidth="1.8" strokeLinecap="round" strokeLinejoin="round" />
    </svg>
  );
}
