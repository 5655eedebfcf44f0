// Starts the built server on the loopback address and says when it answers.
import { spawn } from 'node:child_process'
import { createServer } from 'node:net'

const isFree = port =>
  new Promise(resolve => {
    const probe = createServer()
      .once('error', () => resolve(false))
      .once('listening', () => probe.close(() => resolve(true)))
      .listen(port, '127.0.0.1')
  })

/** A wanted port that is taken is an error; the usual one gives way to the next that is free. */
async function choosePort(wanted, usual) {
  if (wanted !== undefined) {
    if (await isFree(Number(wanted))) return Number(wanted)
    console.error(`Port ${wanted} is taken. Set PORT to another, or leave it out.`)
    process.exit(1)
  }
  let port = usual
  while (!(await isFree(port))) port++
  return port
}

export async function serve({ database, usualPort }) {
  const port = await choosePort(process.env.PORT, usualPort)
  const base = `http://127.0.0.1:${port}`
  const server = spawn('node', ['.output/server/workers/front.mjs'], {
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, HYPOMET_DB: database, HOST: process.env.HOST ?? '127.0.0.1', PORT: String(port) },
  })
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill('SIGTERM'))
  server.on('exit', code => process.exit(code ?? 0))
  for (;;) {
    try {
      if ((await fetch(`${base}/api/health`)).ok) return { base, server }
    } catch {
      await new Promise(resolve => setTimeout(resolve, 100))
    }
  }
}
