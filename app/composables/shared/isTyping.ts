/** Whether a key belongs to a field or a dialog and not to the page. */
export function isTyping(e: KeyboardEvent): boolean {
  if (e.ctrlKey || e.metaKey || e.altKey) return true
  return (
    e.target instanceof Element &&
    e.target.closest('input, textarea, select, [contenteditable], [role="dialog"]') !== null
  )
}
