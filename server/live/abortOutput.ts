import { connect } from 'node:net'
import { HypometError, outputWords, type WiredOutput } from '@hypomet/core'

/** A device that is there answers well within this, ms. */
const ANSWERS_WITHIN = 500
/** A function code that comes back with this bit is a refusal. */
const REFUSED = 0x80
const WRITE_COIL = 0x05

/**
 * Makes an output do what it does on an abort.
 *
 * @param to  for a coil: the state that is written; that of an abort if left out
 * @returns ms until it was taken: a line once the listener's machine has it, a coil once the relay has answered
 * @throws HypometError `output-silent`
 */
export function fire(output: WiredOutput, to?: 'on' | 'off'): Promise<number> {
  const begun = performance.now()
  return new Promise((resolve, reject) => {
    const socket = connect({ host: output.host, port: output.port, noDelay: true })
    const fail = (why: string) => {
      clearTimeout(timer)
      socket.destroy()
      reject(new HypometError('output-silent', `${capital(outputWords(output))}: ${why}.`))
    }
    const done = () => {
      clearTimeout(timer)
      resolve(performance.now() - begun)
      socket.end()
    }
    const timer = setTimeout(() => fail(`nothing answered within ${ANSWERS_WITHIN} ms`), ANSWERS_WITHIN)
    socket.on('error', () => fail('nothing answers there'))
    if (output.kind === 'line') {
      socket.once('connect', () => socket.write(`${output.text}\n`, e => (e ? fail('it could not be sent') : done())))
      return
    }
    const asked = coilRequest(output.unit, output.coil, (to ?? output.to) === 'on')
    let heard = Buffer.alloc(0)
    socket.once('connect', () => socket.write(asked))
    socket.on('close', () => fail('it hung up without an answer'))
    socket.on('data', (piece: Buffer) => {
      heard = Buffer.concat([heard, piece])
      if (heard.length < 9) return
      if (heard[7] === (WRITE_COIL | REFUSED)) return fail(`it refused, with exception ${heard[8]}`)
      if (heard.length < asked.length) return
      if (heard.subarray(0, asked.length).equals(asked)) done()
      else fail('its answer is not that of such a relay')
    })
  })
}

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1)

/**
 * Write Single Coil over TCP: seven bytes of header, the function, the address, and FF00 or 0000. A relay that has done
 * it answers with the same bytes.
 *
 * @source MODBUS Application Protocol Specification V1.1b3, 6.5; MODBUS Messaging on TCP/IP Implementation Guide, 3.1.3
 */
export function coilRequest(unit: number, coil: number, isOn: boolean, transaction = 1): Buffer {
  const bytes = Buffer.alloc(12)
  bytes.writeUInt16BE(transaction, 0)
  bytes.writeUInt16BE(0, 2)
  bytes.writeUInt16BE(6, 4)
  bytes.writeUInt8(unit, 6)
  bytes.writeUInt8(WRITE_COIL, 7)
  bytes.writeUInt16BE(coil, 8)
  bytes.writeUInt16BE(isOn ? 0xff_00 : 0, 10)
  return bytes
}
