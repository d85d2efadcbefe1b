import { PSM, type ImageLike, type Line, type Worker as TextReader } from 'tesseract.js';

/** How the text reader is set for plates. */
export const prepareReader = async (reader: TextReader): Promise<TextReader> => {
  await reader.setParameters({ tessedit_pageseg_mode: PSM.SINGLE_BLOCK, user_defined_dpi: '300' });
  return reader;
};

/** The lines of a picture: as one block, straightened first; where that finds nothing (a short line alone), as words that lie about. */
export async function recognisedLines(reader: TextReader, picture: ImageLike): Promise<Line[]> {
  const block = await linesOf(reader, picture);
  if (block.some(({ text }) => text.trim() !== '')) return block;
  await reader.setParameters({ tessedit_pageseg_mode: PSM.SPARSE_TEXT });
  try {
    return await linesOf(reader, picture);
  } finally {
    await prepareReader(reader);
  }
}

async function linesOf(reader: TextReader, picture: ImageLike): Promise<Line[]> {
  const { data } = await reader.recognize(picture, { rotateAuto: true }, { blocks: true });
  return (data.blocks ?? []).flatMap((block) => block.paragraphs.flatMap((paragraph) => paragraph.lines));
}
