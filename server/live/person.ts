import { HypometError } from '@hypomet/core'
import { UNNAMED } from '../db/connection/unnamed'

const MOST_LETTERS = 60

/** A name as it came in a header or a cookie; without accounts this is a name, not a proof. */
function named(said: string | undefined): string {
  try {
    return (
      decodeURIComponent(said ?? '')
        .trim()
        .slice(0, MOST_LETTERS) || UNNAMED
    )
  } catch {
    return UNNAMED
  }
}

/** A header that was written for an address, as a page writes it. @throws HypometError `header-format` */
export function headerText(name: string, value: string): string {
  try {
    return decodeURIComponent(value)
  } catch {
    throw new HypometError('header-format', `The header ${name} is not written as an address writes it (%C3%A9 for é).`)
  }
}

/** Who is at the keyboard, as the page says with each call. @throws HypometError `header-format` */
export const personInHeader = (header: string | undefined): string =>
  headerText('x-hypomet-person', header ?? '')
    .trim()
    .slice(0, MOST_LETTERS) || UNNAMED

/** The same for a socket, which bears no header of ours but the page's cookie. */
export const personInCookie = (cookies: string | undefined | null): string =>
  named(/(?:^|;\s*)hypomet-person=([^;]*)/.exec(cookies ?? '')?.[1])
