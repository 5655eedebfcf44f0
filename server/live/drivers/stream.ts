import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import { connect, type Socket } from 'node:net'
import { LineStream, type LiveDerived, type RigCommand, type RigState, type StreamLayout } from '@hypomet/core'
import type { StreamWhere } from '../../db/schema'
import type { Arrival, Driver, Said } from './driver'
import type { LadderFollower } from './follower'

const RETRY_MS = 1000
const FILE_LOOK_MS = 50
/** A stream that says nothing for so many seconds is lost, even where its line still stands. */
const SILENT = 3
/** … or for so many samples of a slow one. */
const SILENT_SAMPLES = 5

/** Opens a stream of text and tells what comes. */
export interface TextSource {
  open(heard: { piece(text: string): void; there(): void; lost(why: string): void }): void
  close(): void
}

export const sourceOf = (where: StreamWhere): TextSource =>
  where.kind === 'tcp' ? new TcpSource(where.host, where.port) : new FileSource(where.path)

/** A logger that serves its lines over TCP; tried again every second while it is away. */
class TcpSource implements TextSource {
  private socket: Socket | null = null
  private retry: NodeJS.Timeout | undefined
  private closed = false

  constructor(
    private readonly host: string,
    private readonly port: number,
  ) {}

  open(heard: Parameters<TextSource['open']>[0]): void {
    const decoder = new TextDecoder()
    this.socket = connect(this.port, this.host)
    this.socket.on('connect', () => heard.there())
    this.socket.on('data', (bytes: Buffer) => heard.piece(decoder.decode(bytes, { stream: true })))
    this.socket.on('error', () => {})
    this.socket.on('close', () => {
      if (this.closed) return
      heard.lost(`${this.host}:${this.port} does not answer`)
      this.retry = setTimeout(() => this.open(heard), RETRY_MS)
    })
  }

  close(): void {
    this.closed = true
    clearTimeout(this.retry)
    this.socket?.destroy()
  }
}

/** A file that a logger writes to: what is there already is past, what is added is read. */
class FileSource implements TextSource {
  private timer: NodeJS.Timeout | undefined
  private closed = false
  private at = -1

  constructor(private readonly path: string) {}

  open(heard: Parameters<TextSource['open']>[0]): void {
    const decoder = new TextDecoder()
    let isThere = false
    const look = async () => {
      try {
        const { size } = await stat(this.path)
        if (!isThere) heard.there()
        isThere = true
        // One that has become shorter was begun anew.
        if (this.at < 0) this.at = size
        else if (size < this.at) this.at = 0
        if (size > this.at) {
          for await (const bytes of createReadStream(this.path, {
            start: this.at,
            end: size - 1,
          }) as AsyncIterable<Buffer>)
            heard.piece(decoder.decode(bytes, { stream: true }))
          this.at = size
        }
      } catch {
        if (isThere) heard.lost('the file cannot be read')
        isThere = false
      }
      if (!this.closed) this.timer = setTimeout(() => void look(), FILE_LOOK_MS)
    }
    void look()
  }

  close(): void {
    this.closed = true
    clearTimeout(this.timer)
  }
}

/** A user's own logger: lines of numbers, with whatever goes wrong on a line said and counted. */
export class StreamDriver implements Driver {
  onArrival: (() => void) | undefined
  isThere = true
  private readonly lines: LineStream
  private pieces: string[] = []
  private said: Said[] = []
  private arrived: number | null = null
  private lastPiece = NaN
  private lostAt: number | null = null

  private readonly silence: number

  constructor(
    private readonly source: TextSource,
    layout: StreamLayout,
    readonly follower: LadderFollower,
    private readonly derived: Pick<LiveDerived, 'feed'>,
  ) {
    this.lines = new LineStream(layout)
    this.silence = Math.max(SILENT, SILENT_SAMPLES * layout.interval)
  }

  get state(): RigState {
    return this.follower.state
  }

  command(command: RigCommand, seconds?: number): void {
    this.follower.command(command, seconds)
  }

  start(): void {
    this.source.open({
      piece: text => {
        this.pieces.push(text)
        this.arrived ??= performance.now()
        this.onArrival?.()
      },
      there: () => {
        this.lastPiece = NaN
        this.lines.cut()
      },
      lost: why => this.lose(why),
    })
  }

  stop(): void {
    this.source.close()
  }

  poll(elapsed: number): Arrival {
    if (Number.isNaN(this.lastPiece)) this.lastPiece = elapsed
    const arrived = this.arrived
    const text = this.pieces.join('')
    this.pieces = []
    this.arrived = null
    if (text !== '') {
      this.lastPiece = elapsed
      if (this.lostAt !== null && !this.isThere) {
        this.said.push({ kind: 'stream back', note: `after ${(elapsed - this.lostAt).toFixed(1)} s` })
        this.lostAt = null
      }
      this.isThere = true
    } else if (this.isThere && elapsed - this.lastPiece > this.silence) this.lose(`nothing came for ${this.silence} s`)
    if (!this.isThere && this.lostAt === null) this.lostAt = elapsed
    const { block: read, troubles } = this.lines.push(text, elapsed)
    const block = this.derived.feed(read)
    this.follower.feed(block)
    const over = this.follower.unplanned()
    if (over !== null)
      this.said.push({
        kind: 'deviation',
        note: 'is on above the target, and unplanned load: ladder held',
        value: over,
        hold: true,
      })
    const said = [...this.said, ...troubles.map(({ code, ...t }) => ({ kind: code, ...t }))]
    this.said = []
    return { blocks: block.t.length > 0 ? [block] : [], said, arrived }
  }

  private lose(why: string): void {
    if (!this.isThere) return
    this.isThere = false
    this.lostAt = null
    this.said.push({ kind: 'stream lost', note: `${why}: ladder held`, hold: true })
  }
}
