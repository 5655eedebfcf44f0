import { HypometError } from '../error'
import { assertRoom, evenStamps, type ColumnTable } from './columns'

/** A sound file's channels are counted in two bytes; nobody records as many. */
const MOST_CHANNELS = 4096

const broken = (what: string): HypometError => new HypometError('damaged-file', `This sound file is damaged: ${what}.`)

/**
 * Channels of a WAV file as shares of full scale, −1 … 1, with a time column: whole numbers of 8, 16, 24 and 32 bits,
 * floating point of 32 and 64.
 *
 * @param mostRows  that are read
 * @throws HypometError `damaged-file`, `not-supported`, `too-large`
 * @source RIFF WAVE, Multimedia Programming Interface and Data Specifications 1.0 (1991)
 */
export function readWav(bytes: Uint8Array, mostRows = Infinity): ColumnTable {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let format: { code: number; channels: number; rate: number; bits: number } | null = null
  for (let at = 12; at + 8 <= bytes.length;) {
    const id = String.fromCharCode(...bytes.subarray(at, at + 4))
    const size = view.getUint32(at + 4, true)
    const body = at + 8
    if (id === 'fmt ') {
      if (body + 26 > bytes.length) throw broken('it breaks off in its format')
      const code = view.getUint16(body, true)
      // The extensible form holds the code in front of its identifier.
      format = {
        code: code === 0xfffe ? view.getUint16(body + 24, true) : code,
        channels: view.getUint16(body + 2, true),
        rate: view.getUint32(body + 4, true),
        bits: view.getUint16(body + 14, true),
      }
    } else if (id === 'data') {
      if (!format || format.channels === 0 || format.rate === 0)
        throw broken('its format is not given before its samples')
      return samples(view, body, Math.min(size, bytes.length - body), format, mostRows)
    }
    at = body + size + (size % 2)
  }
  throw broken('it holds no samples')
}

function samples(
  view: DataView,
  from: number,
  size: number,
  { code, channels, rate, bits }: { code: number; channels: number; rate: number; bits: number },
  mostRows: number,
): ColumnTable {
  if (channels > MOST_CHANNELS)
    throw broken(`it claims ${channels.toLocaleString('en')} channels, and up to ${MOST_CHANNELS} are read`)
  const width = bits / 8
  const read = reader(view, code, bits)
  const all = Math.floor(size / (width * channels))
  if (all === 0) throw broken('it holds no sample of each of its channels')
  const n = Math.min(all, mostRows)
  assertRoom(n, channels + 1)
  const columns = Array.from({ length: channels }, (_, c) => ({
    name: `Channel ${c + 1}`,
    unit: '1',
    values: Float64Array.from({ length: n }, (_, i) => read(from + (i * channels + c) * width)),
  }))
  return {
    columns: [{ name: 'Time', unit: 's', values: evenStamps(n, 1 / rate) }, ...columns],
    about:
      `${channels} ${channels === 1 ? 'channel' : 'channels'} at ${rate} Hz, ${bits} bits; values are shares ` +
      `of full scale`,
    ...(n < all ? { isCut: true } : {}),
  }
}

function reader(view: DataView, code: number, bits: number): (at: number) => number {
  if (code === 1 && bits === 8) return at => (view.getUint8(at) - 128) / 128
  if (code === 1 && bits === 16) return at => view.getInt16(at, true) / 2 ** 15
  if (code === 1 && bits === 24) return at => (view.getUint16(at, true) + view.getInt8(at + 2) * 2 ** 16) / 2 ** 23
  if (code === 1 && bits === 32) return at => view.getInt32(at, true) / 2 ** 31
  if (code === 3 && bits === 32) return at => view.getFloat32(at, true)
  if (code === 3 && bits === 64) return at => view.getFloat64(at, true)
  throw new HypometError(
    'not-supported',
    `Sound of code ${code} with ${bits} bits is not read; export it as plain PCM.`,
  )
}
