import { HypometError } from '@hypomet/core'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { shownPicture } from '../reports/shownPicture'

const hidden = 'a script that a picture has no need of'
const drawn = (channels: 3 | 4) =>
  sharp({ create: { width: 60, height: 40, channels, background: { r: 200, g: 80, b: 20, alpha: 0.5 } } })

describe('a picture that is shown', () => {
  it('is its pixels alone, upright', async () => {
    const taken = await drawn(3)
      .jpeg()
      .withExif({ IFD0: { Copyright: hidden } })
      .withMetadata({ orientation: 6 })
      .toBuffer()
    const trailing = Buffer.concat([taken, Buffer.from(hidden)])
    expect(trailing.includes(hidden)).toBe(true)
    const { bytes, mime } = await shownPicture(trailing)
    expect(mime).toBe('image/jpeg')
    expect(bytes.includes(hidden)).toBe(false)
    const { width, height, exif } = await sharp(bytes).metadata()
    expect([width, height, exif]).toEqual([40, 60, undefined])
  })

  it('keeps what one sees through, and is as small as asked', async () => {
    const { bytes, mime } = await shownPicture(await drawn(4).png().toBuffer(), { within: 30 })
    expect(mime).toBe('image/png')
    expect(await sharp(bytes).metadata()).toMatchObject({ width: 30, height: 20, hasAlpha: true })
  })

  it('that breaks off, claims too much or is none is refused in words', async () => {
    const whole = await drawn(3).png().toBuffer()
    const huge = Buffer.from(whole)
    huge.writeUInt32BE(60_000, 16)
    huge.writeUInt32BE(60_000, 20)
    for (const bytes of [whole.subarray(0, 60), huge, Buffer.from('<svg onload="x"/>'), Buffer.alloc(0)])
      await expect(shownPicture(bytes)).rejects.toThrow(HypometError)
  })
})
