import type { FileReading, ImportChannel } from '../../ingest/reading'
import type { Conversion } from './conversion'

interface Said {
  channelMap: Record<string, ImportChannel> | null
  reading: FileReading | null
}

/** What was said of a channel when its file was imported, or since; an empty unit: what the file says. */
export function saidOf({ name, conversion }: { name: string; conversion: Conversion | null }, of: Said | undefined) {
  const mapped = Object.values(of?.channelMap ?? {}).find(m => m.column === name)
  return {
    unit: conversion?.unit ?? mapped?.unit ?? of?.reading?.units?.[name] ?? '',
    scale: conversion?.scale ?? 1,
    offset: conversion?.offset ?? 0,
  }
}
