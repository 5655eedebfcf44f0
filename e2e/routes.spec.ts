import { expect, test } from './person'

/* Every route that the description names, asked for what is not there and with what does not fit. */

interface Operation {
  requestBody?: { content: Record<string, unknown> }
}
interface Document {
  paths: Record<string, Record<string, Operation>>
  components: { schemas: { Error: { properties: { data: { properties: { code: { enum: string[] } } } } } } }
}

const NOWHERE = { '{id}': '999999999', '{slug}': 'nowhere', '{register}': 'nowhere' }
const UNFIT = ['[]', 'null', '"text"', '{"steps":[1],"plan":7,"creates":[null],"channels":{"t":4},"edit":"x","id":{}}']
/** Lists that are empty where nothing is known. */
const EMPTY = ['/api/sensors/{id}/readings', '/api/lessons/{id}/firings', '/api/attachments']

const at = (path: string, ids: Record<string, string>) =>
  Object.entries(ids).reduce((p, [name, id]) => p.replace(name, id), path)

test('every route refuses with a status and a code of the list, and never breaks', async ({ request }) => {
  const document = (await (await request.get('/api/openapi.json')).json()) as Document
  const codes = document.components.schemas.Error.properties.data.properties.code.enum
  const wrong: string[] = []
  let asked = 0

  async function refused(method: string, path: string, body: string | null, statuses: number[]): Promise<void> {
    const answer = await request.fetch(path, {
      method,
      ...(body !== null && { data: Buffer.from(body), headers: { 'content-type': 'application/json' } }),
    })
    asked++
    const said = (await answer.json().catch(() => ({}))) as { message?: string; data?: { code?: string } }
    const isPlain = codes.includes(said.data?.code ?? '') && !/expected|undefined|invalid input/i.test(said.message!)
    if (!statuses.includes(answer.status()) || !isPlain)
      wrong.push(`${method} ${path} ${body ?? ''}: ${answer.status()} ${JSON.stringify(said).slice(0, 200)}`)
  }

  for (const [path, operations] of Object.entries(document.paths))
    for (const [method, { requestBody }] of Object.entries(operations)) {
      const isJson = requestBody !== undefined && 'application/json' in requestBody.content
      const hasId = Object.keys(NOWHERE).some(name => path.includes(name))
      if (isJson) {
        for (const body of UNFIT) await refused(method, at(path, NOWHERE), body, [404, 422])
        await refused(method, at(path, NOWHERE), '{not json', [400])
      }
      if (!hasId || EMPTY.includes(path)) continue
      if (!isJson && method === 'get') await refused(method, at(path, NOWHERE), null, [404, 422])
      for (const id of ['0', '-1', '1.5', 'one', '1e99'])
        if (path.includes('{id}') && method === 'get') await refused(method, at(path, { '{id}': id }), null, [404, 422])
    }
  expect(wrong).toEqual([])
  expect(asked).toBeGreaterThan(250)
})
