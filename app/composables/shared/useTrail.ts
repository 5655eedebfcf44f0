/** Where the page stands, for the bar at the top; each page says it. */
export const useTrail = () => useState<{ name: string; to?: string }[]>('trail', () => [])
