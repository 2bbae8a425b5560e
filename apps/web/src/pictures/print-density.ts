import { MILLIMETRES } from '@bathyscope/core/units';
import crc32 from 'crc-32';

/**
 * Length of a PNG's signature and of its first chunk, which is always IHDR with 13 bytes
 * (ISO/IEC 15948, 5.2 and 11.2.2).
 */
const PNG_START = 8 + 12 + 13;

/**
 * The same picture, which tells at how many dots per inch it is true to scale: a PNG in its pHYs chunk
 * (ISO/IEC 15948, 11.3.5.3), a JPEG in its JFIF header (ISO/IEC 10918-5, 10.1). Unchanged when it is neither.
 */
export async function withDensity(picture: Blob, dpi: number): Promise<Blob> {
  const bytes = new Uint8Array(await picture.arrayBuffer());
  if (picture.type === 'image/png')
    return new Blob([bytes.subarray(0, PNG_START), densityChunk(dpi), bytes.subarray(PNG_START)], {
      type: picture.type,
    });
  const isJfif = picture.type === 'image/jpeg' && String.fromCharCode(...bytes.subarray(6, 10)) === 'JFIF';
  if (!isJfif) return picture;
  const header = new DataView(bytes.buffer);
  header.setUint8(13, 1);
  header.setUint16(14, Math.round(dpi));
  header.setUint16(16, Math.round(dpi));
  return new Blob([bytes], { type: picture.type });
}

function densityChunk(dpi: number): Uint8Array<ArrayBuffer> {
  const chunk = new Uint8Array(4 + 4 + 9 + 4);
  const view = new DataView(chunk.buffer);
  const dotsPerMetre = Math.round((dpi * MILLIMETRES.m) / MILLIMETRES.in);
  view.setUint32(0, 9);
  chunk.set(new TextEncoder().encode('pHYs'), 4);
  view.setUint32(8, dotsPerMetre);
  view.setUint32(12, dotsPerMetre);
  view.setUint8(16, 1);
  view.setInt32(17, crc32.buf(chunk.subarray(4, 17)));
  return chunk;
}
