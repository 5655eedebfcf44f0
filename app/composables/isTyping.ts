/** Whether a key belongs to a field or a dialog and not to the page. */
export function isTyping(e: KeyboardEvent): boolean {
  const at = e.target as HTMLElement | null
  return e.ctrlKey || e.metaKey || e.altKey || at?.closest('input, textarea, select, [contenteditable], [role="dialog"]') != null
}
