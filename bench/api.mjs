// Calls to a server that is measured, by name.
export const pause = ms => new Promise(resolve => setTimeout(resolve, ms))

/** Answers are JSON; a refusal is an error with its path and what was said. */
export const caller = base => async (method, path, body) => {
  const r = await fetch(base + path, {
    method,
    headers: { 'content-type': 'application/json', 'x-hypomet-person': 'Bench' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  })
  const text = await r.text()
  if (!r.ok) throw new Error(`${method} ${path}: ${text}`)
  return JSON.parse(text)
}

/** Resolves once the server answers. */
export async function answers(base) {
  while (!(await fetch(`${base}/api/health`).catch(() => null))?.ok) await pause(50)
}
