/** m; y upward. */
export type OutlinePoint = readonly [x: number, y: number]

const mm = (v: number): string => (1000 * v).toFixed(4)

/** Closed contours as an SVG in millimetres, at their size. */
export function svgOutline(contours: readonly OutlinePoint[][]): string {
  const xs = contours.flat().map(p => p[0])
  const ys = contours.flat().map(p => p[1])
  const [width, height] = [Math.max(...xs), Math.max(...ys)]
  const d = contours.map(c => `M${c.map(([x, y]) => `${mm(x)} ${mm(height - y)}`).join(' L')} Z`).join(' ')
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(width)}mm" height="${mm(height)}mm" viewBox="0 0 ` +
    `${mm(width)} ${mm(height)}"><path d="${d}" fill="none" stroke="black" stroke-width="0.05"/></svg>\n`
  )
}

/**
 * Closed contours as polylines of a DXF drawing in millimetres, as cutters read it.
 *
 * @source DXF R12 (AC1009): POLYLINE, VERTEX, SEQEND; group codes in pairs of lines
 */
export function dxfOutline(contours: readonly OutlinePoint[][]): string {
  const pair = (code: number, value: string | number) => `${code}\n${value}`
  const lines = [
    pair(0, 'SECTION'),
    pair(2, 'HEADER'),
    pair(9, '$ACADVER'),
    pair(1, 'AC1009'),
    pair(9, '$INSUNITS'),
    pair(70, 4),
    pair(0, 'ENDSEC'),
    pair(0, 'SECTION'),
    pair(2, 'ENTITIES'),
  ]
  for (const c of contours) {
    lines.push(pair(0, 'POLYLINE'), pair(8, '0'), pair(66, 1), pair(70, 1))
    for (const [x, y] of c) lines.push(pair(0, 'VERTEX'), pair(8, '0'), pair(10, mm(x)), pair(20, mm(y)))
    lines.push(pair(0, 'SEQEND'))
  }
  return [...lines, pair(0, 'ENDSEC'), pair(0, 'EOF')].join('\n') + '\n'
}
