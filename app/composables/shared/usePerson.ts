/** Who is at the keyboard, for the record; kept in a cookie so that pages rendered on the server know it too. */
export const usePerson = () =>
  useCookie<string>('hypomet-person', { default: () => '', maxAge: 365 * 86_400, sameSite: 'strict' })
