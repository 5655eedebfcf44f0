// Starts the built server on the loopback address and says when it answers.
import { spawn } from 'node:child_process'

export async function serve({ database, port }) {
  const base = `http://127.0.0.1:${port}`
  const server = spawn('node', ['.output/server/index.mjs'], {
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
