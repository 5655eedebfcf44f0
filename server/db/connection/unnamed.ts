/** Who has not said who they are. */
export const UNNAMED = 'unnamed'
