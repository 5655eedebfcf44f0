import { appendFileSync, readFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { setInterval, setTimeout } from 'node:timers'
import { parseArgs } from 'node:util'

/*
 * Plays a table of numbers as a logger would: its header to whoever connects, then a line at a time.
 *   node scripts/send.mjs demo/data/hanger-arm-b.csv            over TCP, port 5025
 *   node scripts/send.mjs table.csv --to growing.csv            to a file that grows
 * --rate lines a second (10) · --port (5025) · --garbage 0.02 of the lines spoilt · --drop 30 hangs up after so many
 * seconds, once
 */
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    rate: { type: 'string', default: '10' },
    port: { type: 'string', default: '5025' },
    to: { type: 'string' },
    garbage: { type: 'string', default: '0' },
    drop: { type: 'string' },
  },
})
if (!positionals[0]) {
  console.error('Which table? node scripts/send.mjs demo/data/hanger-arm-b.csv')
  process.exit(1)
}
const lines = readFileSync(positionals[0], 'utf8').split(/\r?\n/).filter(Boolean)
const isRow = line => /^[\s\d.,;|eE+:-]+$/.test(line)
const first = lines.findIndex((line, i) => isRow(line) && isRow(lines[i + 1] ?? line))
const [head, rows] = [lines.slice(0, first).join('\n') + '\n', lines.slice(first)]
const sockets = new Set()
let at = 0

const spoilt = line => line.slice(0, line.length / 2) + '??'
const next = () => (Math.random() < Number(values.garbage) ? spoilt(rows[at++]) : rows[at++]) + '\n'
function send() {
  if (at >= rows.length) {
    console.log('That was the last line.')
    process.exit(0)
  }
  if (values.to) return appendFileSync(values.to, next())
  if (sockets.size === 0) return
  const line = next()
  for (const s of sockets) s.write(line)
}

if (values.to) {
  appendFileSync(values.to, head)
  console.log(`${rows.length} lines to ${values.to}, ${values.rate} a second`)
} else {
  createServer(s => {
    sockets.add(s)
    s.on('close', () => sockets.delete(s)).on('error', () => {})
    s.write(head)
  }).listen(Number(values.port), '127.0.0.1', () =>
    console.log(`${rows.length} lines to whoever connects to 127.0.0.1:${values.port}, ${values.rate} a second`),
  )
}
setInterval(send, 1000 / Number(values.rate))
if (values.drop) setTimeout(() => sockets.forEach(s => s.destroy()), 1000 * Number(values.drop))
