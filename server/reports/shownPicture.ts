import { HypometError } from '@hypomet/core'
import sharp from 'sharp'

/** Pixels of a picture that is opened at all. */
const MOST_PIXELS = 150e6

/**
 * A picture as a browser may have it: its pixels drawn anew, upright, without whatever else the file carries.
 *
 * @param from  its path, or its bytes
 * @param o.within  px that neither side is longer than
 * @throws HypometError `damaged-file`
 */
export async function shownPicture(
  from: string | Uint8Array,
  { within }: { within?: number } = {},
): Promise<{ bytes: Buffer; mime: 'image/jpeg' | 'image/png' }> {
  try {
    const picture = sharp(from, { limitInputPixels: MOST_PIXELS, failOn: 'error' }).rotate()
    const { hasAlpha = false } = await picture.metadata()
    if (within !== undefined) picture.resize({ width: within, height: within, fit: 'inside', withoutEnlargement: true })
    return hasAlpha
      ? { bytes: await picture.png().toBuffer(), mime: 'image/png' }
      : { bytes: await picture.jpeg({ quality: 92 }).toBuffer(), mime: 'image/jpeg' }
  } catch {
    throw new HypometError(
      'damaged-file',
      'This picture breaks off, is damaged or larger than 150 megapixels. It can be saved as it came.',
    )
  }
}
