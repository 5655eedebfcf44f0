import { loadDemo } from './load'

/* Loads the sample campaign into a Hypomet that runs; the address and the folder of its files come as arguments. */
const [base, folder] = process.argv.slice(2) as [string, string]
const slug = await loadDemo(base, folder)
process.send?.({ slug })
process.disconnect?.()
