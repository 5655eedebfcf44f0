/** The one thing of the runtime that reading files needs; browsers, Node and workers all have it. */
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean })
  decode(input?: Uint8Array, options?: { stream?: boolean }): string
}
