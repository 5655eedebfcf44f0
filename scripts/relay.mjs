// npm run relay: a stand-in for a relay on Modbus over TCP, to try an abort's output on: 127.0.0.1:5020, or PORT.
// It answers Write Single Coil as a relay does, says what each coil stands at, and prints any other line that comes.
import { createServer } from 'node:net'

const port = Number(process.env.PORT ?? 5020)
const HEADER = 7
const WRITE_COIL = 5
const ILLEGAL_FUNCTION = 1
const server = createServer(socket => {
  let heard = Buffer.alloc(0)
  socket.on('error', () => socket.destroy())
  socket.on('data', piece => {
    heard = Buffer.concat([heard, piece])
    while (heard.length > 0) {
      // A frame says its protocol, 0, and its length; a line of text does neither.
      if (heard.length >= 4 && heard.readUInt16BE(2) !== 0) {
        const end = heard.indexOf(10)
        if (end < 0) return
        console.log(`line: ${heard.subarray(0, end).toString('utf8')}`)
        heard = heard.subarray(end + 1)
        continue
      }
      if (heard.length < HEADER) return
      const length = 6 + heard.readUInt16BE(4)
      if (heard.length < length) return
      const frame = heard.subarray(0, length)
      heard = heard.subarray(length)
      if (frame[HEADER] === WRITE_COIL) {
        console.log(
          `unit ${frame[6]}, coil ${frame.readUInt16BE(8)}: ${frame.readUInt16BE(10) === 0xff00 ? 'on' : 'off'}`,
        )
        socket.write(frame)
      } else {
        const refusal = Buffer.from(frame.subarray(0, 9))
        refusal.writeUInt16BE(3, 4)
        refusal[HEADER] |= 0x80
        refusal[HEADER + 1] = ILLEGAL_FUNCTION
        socket.write(refusal)
      }
    }
  })
})
server.listen(port, '127.0.0.1', () => console.log(`A relay stands in at 127.0.0.1:${port}. Stop with Ctrl C.`))
