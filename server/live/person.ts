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

/** Who is at the keyboard, as the page says with each call. */
export const personInHeader = (header: string | undefined): string => named(header)

/** The same for a socket, which bears no header of ours but the page's cookie. */
export const personInCookie = (cookies: string | undefined | null): string =>
  named(/(?:^|;\s*)hypomet-person=([^;]*)/.exec(cookies ?? '')?.[1])
