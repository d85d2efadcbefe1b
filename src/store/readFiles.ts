import { unzip, type Unzipped } from 'fflate';
import Papa from 'papaparse';
import { createPackageReader, emptyCatalogue, type Catalogue, type Problem } from '@/core/catalogue';

export type ImportProgress = {
  stage: 'unpacking' | 'reading' | 'checking' | 'writing';
  done: number;
  total: number;
  file: string;
};

export type PackageResult = { catalogue: Catalogue; problems: Problem[]; title: string } | { cancelled: true };

const problem = (file: string, why: string): Problem => ({ file, row: null, column: null, value: null, why });

const unzipAll = (bytes: Uint8Array): Promise<Unzipped> =>
  new Promise((resolve, reject) => unzip(bytes, (error, files) => (error ? reject(error) : resolve(files))));

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Files of a package by name, from one zip or from the files of a folder. Only the last part of each path counts. */
export async function collectFiles(
  files: readonly File[],
): Promise<{ files: Map<string, Uint8Array>; problems: Problem[] }> {
  const found = new Map<string, Uint8Array>();
  const problems: Problem[] = [];
  const base = (path: string) => path.split('/').at(-1) ?? path;
  for (const file of files) {
    const bytes = new Uint8Array(await file.arrayBuffer());
    if (!isZip(bytes)) {
      found.set(base(file.name), bytes);
      continue;
    }
    try {
      for (const [path, content] of Object.entries(await unzipAll(bytes)))
        if (!path.endsWith('/')) found.set(base(path), content);
    } catch {
      problems.push(problem(file.name, 'is a damaged or cut-off zip file. Nothing was changed; copy it again.'));
    }
  }
  return { files: found, problems };
}

/** UTF-8, or a problem that says so. */
export function decode(file: string, bytes: Uint8Array): string | Problem {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return problem(file, 'is not in UTF-8. Save it again as "CSV UTF-8".');
  }
}

const ROWS_PER_BREATH = 4000;
const breath = () => new Promise<void>((resolve) => setTimeout(resolve, 0));

/** Reads a whole package, row by row, with progress, and stops when asked to. Nothing is written. */
export async function readPackageFiles(
  input: readonly File[],
  progress: (at: ImportProgress) => void,
  cancelled: () => boolean,
): Promise<PackageResult> {
  progress({ stage: 'unpacking', done: 0, total: 1, file: input[0]?.name ?? '' });
  const { files, problems } = await collectFiles(input);
  const catalogue = emptyCatalogue();
  const reader = createPackageReader();
  const description = files.get('datapackage.json');
  if (!description)
    return {
      catalogue,
      title: '',
      problems: [
        ...problems,
        problem('datapackage.json', 'is missing: this is not a catalogue package. Nothing was changed.'),
      ],
    };
  const text = decode('datapackage.json', description);
  if (typeof text !== 'string') return { catalogue, title: '', problems: [...problems, text] };
  const plan = reader.describe(text);
  for (const [at, { table, path }] of plan.entries()) {
    const name = path.split('/').at(-1) ?? path;
    const bytes = files.get(name);
    progress({ stage: 'reading', done: at, total: plan.length, file: name });
    if (!bytes) {
      problems.push(problem(name, 'is named in datapackage.json but is not in the package.'));
      continue;
    }
    const content = decode(name, bytes);
    if (typeof content !== 'string') {
      problems.push(content);
      continue;
    }
    const parsed = Papa.parse<Record<string, string>>(content, { header: true, skipEmptyLines: true });
    for (const fault of parsed.errors.slice(0, 20))
      if (fault.type === 'Quotes')
        problems.push({
          file: name,
          row: (fault.row ?? 0) + 2,
          column: null,
          value: null,
          why: 'a quotation mark is not closed or stands inside a cell.',
        });
    if (!reader.header(table, name, parsed.meta.fields ?? [])) continue;
    const rows: unknown[] = catalogue[table];
    for (const [index, cells] of parsed.data.entries()) {
      const row = reader.row(table, name, index + 2, cells);
      if (row) rows.push(row);
      if (index % ROWS_PER_BREATH === ROWS_PER_BREATH - 1) {
        await breath();
        if (cancelled()) return { cancelled: true };
      }
    }
    await breath();
    if (cancelled()) return { cancelled: true };
  }
  progress({ stage: 'checking', done: plan.length, total: plan.length, file: '' });
  return { catalogue, title: titleOf(text), problems: [...problems, ...reader.finish()] };
}

function titleOf(descriptor: string): string {
  const raw: unknown = JSON.parse(descriptor);
  return typeof raw === 'object' && raw !== null && 'title' in raw ? String(raw.title) : 'Catalogue';
}
