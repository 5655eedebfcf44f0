/** “C” after “B”; what is no single letter gets a 2. */
export const nextLabel = (label: string): string =>
  /^[A-Y]$/.test(label) ? String.fromCharCode(label.charCodeAt(0) + 1) : `${label}2`
