/** Pictures in fewer bytes, with every pixel as it was. */
import type { Sharp } from 'sharp';

/** So hard it is tried to save bytes, from 0 to 6: beyond, a picture takes far longer and becomes little smaller. */
const effort = 4;

let load: Promise<(bytes: Uint8Array) => Sharp> | null = null;

/** A PNG as lossless WebP where that is smaller; anything else as it is. */
export async function packPicture(bytes: Uint8Array, ending: string): Promise<{ bytes: Uint8Array; ending: string }> {
  if (ending !== 'png') return { bytes, ending };
  load ??= import('sharp').then(({ default: sharp }) => sharp);
  const open = await load;
  const packed = await open(bytes)
    .webp({ lossless: true, exact: true, effort })
    .toBuffer()
    .catch(() => null);
  return packed && packed.length < bytes.length ? { bytes: packed, ending: 'webp' } : { bytes, ending };
}
