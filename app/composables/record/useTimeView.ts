export interface TimeView {
  from: number
  to: number
}

/** A range of time that is looked at, within the whole of a record. */
export function useTimeView(whole: () => TimeView) {
  const view = ref<TimeView>({ ...whole() })
  function show(from: number, to: number): void {
    const { from: first, to: last } = whole()
    const span = Math.min(last - first, Math.max(to - from, (last - first) * 1e-7))
    const start = Math.max(first, Math.min(from, last - span))
    view.value = { from: start, to: start + span }
  }
  function zoom(factor: number, around = (view.value.from + view.value.to) / 2): void {
    const { from, to } = view.value
    show(around - (around - from) * factor, around + (to - around) * factor)
  }
  const pan = (share: number) =>
    show(
      view.value.from + share * (view.value.to - view.value.from),
      view.value.to + share * (view.value.to - view.value.from),
    )
  return { view, show, zoom, pan, all: () => show(whole().from, whole().to) }
}
