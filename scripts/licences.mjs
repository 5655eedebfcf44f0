// Licences of the packages that ship with Hypomet, as docs/third-party.md, from the lock file and the packages
// themselves.
import { readFileSync, writeFileSync } from 'node:fs'

const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8'))
const byLicence = new Map()
for (const [path, about] of Object.entries(packages)) {
  if (!path.startsWith('node_modules/') || about.dev || about.devOptional || about.link) continue
  let own
  try {
    own = JSON.parse(readFileSync(`${path}/package.json`, 'utf8'))
  } catch {
    continue // For another platform, not installed here.
  }
  const licence = typeof own.license === 'string' ? own.license : (own.license?.type ?? 'see package')
  byLicence.set(licence, [...(byLicence.get(licence) ?? []), `${own.name} ${own.version}`])
}
const sections = [...byLicence]
  .sort(([, a], [, b]) => b.length - a.length)
  .map(([licence, names]) => `## ${licence}\n\n${[...new Set(names)].sort().join(', ')}\n`)
writeFileSync(
  'docs/third-party.md',
  `# Packages that ship with Hypomet, by licence\n\nMade by \`npm run licences\`. Their texts lie in the ` +
    `packages; the font Inter is under the SIL Open Font License 1.1.\n\n${sections.join('\n')}`,
)
