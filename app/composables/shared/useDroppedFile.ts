/** A file that was dropped somewhere, until the import takes it. */
const dropped = shallowRef<File | null>(null)

export const useDroppedFile = () => dropped
