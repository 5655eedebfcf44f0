// Files made from the sources: written in Prettier's form, or by `--check` only held against what they would be.
import { readFileSync, writeFileSync } from 'node:fs'
import { format, resolveConfig } from 'prettier'

const isCheck = process.argv.includes('--check')

/** @param by the npm script that makes it, named where the file is not current */
export async function keepGenerated(file, text, by) {
  const page = await format(text, { ...(await resolveConfig(file)), filepath: file })
  if (!isCheck) return writeFileSync(file, page)
  if (readFileSync(file, 'utf8') === page) return
  console.error(`${file} is not current: npm run ${by}`)
  process.exitCode = 1
}
