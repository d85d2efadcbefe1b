import { strToU8, Zip, ZipDeflate } from 'fflate';

/** One fixed time for every file in a zip, so that the same content gives the same bytes. Local parts: the format stores those. */
const FILE_TIME = new Date(2000, 0, 1, 0, 0, 0);

export type ZipEntry = { path: string; text: () => AsyncIterable<string> | Iterable<string> };

/** Files in the order of their paths, as one zip. The text streams through: nothing is held but what is compressed. */
export async function zipOf(entries: readonly ZipEntry[]): Promise<Blob> {
  const chunks: BlobPart[] = [];
  const zip = new Zip();
  const finished = new Promise<void>((resolve, reject) => {
    zip.ondata = (error, chunk, final) => {
      if (error) reject(error);
      else chunks.push(new Uint8Array(chunk));
      if (final) resolve();
    };
  });
  for (const { path, text } of [...entries].sort((a, b) => (a.path < b.path ? -1 : 1))) {
    const file = new ZipDeflate(path, { level: 6 });
    file.mtime = FILE_TIME;
    zip.add(file);
    for await (const some of text()) file.push(strToU8(some));
    file.push(new Uint8Array(0), true);
  }
  zip.end();
  await finished;
  return new Blob(chunks, { type: 'application/zip' });
}
