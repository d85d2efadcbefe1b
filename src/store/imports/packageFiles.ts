import { BlobReader, configure, ZipReader } from '@zip.js/zip.js';
import type { TableName } from '@/core/catalogue';
import type { Problem } from '@/core/package';

// This runs in a worker already; the library's own would need files of their own.
configure({ useWebWorkers: false });

/** One file of a package, readable as often as wanted without holding it in memory. */
export type PackageEntry = { name: string; bytes: number; open: () => ReadableStream<Uint8Array> };

/** A table of a package and the file that holds it. */
export type Source = { table: TableName; entry: PackageEntry };

export const fileProblem = (file: string, why: string): Problem => ({
  file,
  row: null,
  column: null,
  value: null,
  why,
});

const base = (path: string) => path.split('/').at(-1) ?? path;

async function isZip(file: File): Promise<boolean> {
  const [first, second] = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  return first === 0x50 && second === 0x4b;
}

async function zipEntries(file: File): Promise<PackageEntry[]> {
  const entries = await new ZipReader(new BlobReader(file), { checkSignature: true }).getEntries();
  return entries.flatMap((entry) =>
    entry.directory
      ? []
      : [
          {
            name: base(entry.filename),
            bytes: entry.uncompressedSize,
            open: () => {
              const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>();
              // What goes wrong while unpacking reaches the reader as an error of the stream.
              entry.getData(writable).catch((error: unknown) => writable.abort(error).catch(() => undefined));
              return readable;
            },
          },
        ],
  );
}

/** Files of a package by name, from one zip or from the files of a folder. Only the last part of each path counts. */
export async function openPackage(
  files: readonly File[],
): Promise<{ entries: Map<string, PackageEntry>; problems: Problem[] }> {
  const entries = new Map<string, PackageEntry>();
  const problems: Problem[] = [];
  for (const file of files) {
    try {
      const found = (await isZip(file))
        ? await zipEntries(file)
        : [{ name: base(file.name), bytes: file.size, open: () => file.stream() }];
      for (const entry of found) entries.set(entry.name, entry);
    } catch {
      problems.push(fileProblem(file.name, 'is a damaged or cut-off zip file. Nothing was changed; copy it again.'));
    }
  }
  return { entries, problems };
}

/** The whole text of a small file; a problem when it is not UTF-8 or cannot be unpacked. */
export async function readText(entry: PackageEntry): Promise<string | Problem> {
  let text = '';
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const reader = entry.open().getReader();
  try {
    for (;;) {
      const { done, value } = await reader.read();
      text += decoder.decode(value ?? new Uint8Array(), { stream: !done });
      if (done) return text;
    }
  } catch (error) {
    return fileProblem(entry.name, readFault(error));
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}

/** Why reading a file broke off. The decoder throws a TypeError with a code; all else is the zip. */
export const readFault = (error: unknown): string =>
  error instanceof TypeError && /encod|decod/i.test(`${error.message} ${String('code' in error ? error.code : '')}`)
    ? 'is not in UTF-8. Save it again as "CSV UTF-8".'
    : 'cannot be unpacked: the zip is damaged. Nothing was changed; copy it again.';
