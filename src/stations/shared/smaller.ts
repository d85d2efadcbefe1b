/** A phone's picture has ten times the dots that a hand's breadth on a screen shows. */
const LONGEST_EDGE = 1600;

/** The picture with its longer edge brought down to what a screen shows; as it came where it is small already or cannot be read. */
export async function smaller(picture: Blob): Promise<Blob> {
  try {
    const bitmap = await createImageBitmap(picture);
    const scale = LONGEST_EDGE / Math.max(bitmap.width, bitmap.height);
    if (scale >= 1) return picture;
    const canvas = new OffscreenCanvas(Math.round(bitmap.width * scale), Math.round(bitmap.height * scale));
    canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    return await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
  } catch {
    return picture;
  }
}
