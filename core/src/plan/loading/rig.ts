import { box, type Drawing, type DrawingItem } from '../drawing'

/** A row of blocks with what runs between them: for set-ups that have no lengths to keep to. */
export function blockDrawing(
  title: string,
  parts: readonly {
    text: string
    value?: number
    kind?:
      | 'frequency'
      | 'force'
      | 'mass'
      | 'pressure'
      | 'volumeFlow'
      | 'rotation'
      | 'power'
      | 'acceleration'
      | 'velocity'
      | 'length'
      | 'temperature'
      | 'voltage'
      | 'current'
      | 'ratio'
      | 'torque'
    tone: 'article' | 'fixture' | 'soft'
  }[],
): Drawing {
  const [width, gap, height] = [1.1, 0.35, 0.5]
  const items: DrawingItem[] = []
  parts.forEach((p, i) => {
    const x = i * (width + gap)
    items.push({ is: 'area', points: box(x, -height / 2, x + width, height / 2), tone: p.tone })
    items.push({
      is: 'text',
      at: [x + width / 2, p.value === undefined ? 0.03 : -0.06],
      text: p.text,
      anchor: 'middle',
      tone: 'ink',
    })
    if (p.value !== undefined)
      items.push({
        is: 'text',
        at: [x + width / 2, 0.14],
        text: '',
        value: p.value,
        kind: p.kind ?? 'ratio',
        anchor: 'middle',
        tone: 'quiet',
      })
    if (i > 0)
      items.push({
        is: 'line',
        points: [
          [x - gap, 0],
          [x, 0],
        ],
        tone: 'link',
      })
  })
  return { title, from: [0, -height / 2], to: [parts.length * (width + gap) - gap, height / 2], toScale: false, items }
}
