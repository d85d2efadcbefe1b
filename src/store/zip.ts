import { BlobWriter, configure, ZipWriter } from '@zip.js/zip.js';

// This runs in a worker already; the library's own would need files of their own.
configure({ useWebWorkers: false });

/** One fixed time for every file in a zip, so that the same content gives the same bytes. Local parts: the format stores those. */
const FILE_TIME = new Date(2000, 0, 1, 0, 0, 0);

export type ZipEntry = { path: string; text: () => AsyncIterable<string> | Iterable<string> };

/** Files in the order of their paths, as one zip. The text streams through: nothing is held but what is compressed. */
export async function zipOf(entries: readonly ZipEntry[]): Promise<Blob> {
  const zip = new ZipWriter(new BlobWriter('application/zip'), {
    lastModDate: FILE_TIME,
    extendedTimestamp: false,
    useCompressionStream: false,
  });
  for (const { path, text } of [...entries].sort((a, b) => (a.path < b.path ? -1 : 1)))
    await zip.add(path, utf8(text()));
  return zip.close();
}

function utf8(text: AsyncIterable<string> | Iterable<string>): ReadableStream<Uint8Array> {
  const pieces = (async function* () {
    yield* text;
  })();
  const encoder = new TextEncoder();
  return new ReadableStream({
    async pull(controller) {
      const { value, done } = await pieces.next();
      if (done) controller.close();
      else controller.enqueue(encoder.encode(value));
    },
  });
}
