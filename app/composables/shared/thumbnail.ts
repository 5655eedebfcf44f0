const LONGER_SIDE = 240

/** A small picture of a photo or of the first page of a PDF; null of anything else. */
export async function thumbnailOf(file: File): Promise<Blob | null> {
  try {
    if (file.type.startsWith('image/')) return await drawn(await createImageBitmap(file))
    if (file.type === 'application/pdf') return await firstPage(new Uint8Array(await file.arrayBuffer()))
  } catch {
    /* a damaged picture is kept without one */
  }
  return null
}

async function drawn(picture: ImageBitmap): Promise<Blob | null> {
  const scale = Math.min(1, LONGER_SIDE / Math.max(picture.width, picture.height))
  const canvas = sized(picture.width * scale, picture.height * scale)
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height)
  return asBlob(canvas)
}

async function firstPage(bytes: Uint8Array): Promise<Blob | null> {
  const pdf = await import('pdfjs-dist')
  pdf.GlobalWorkerOptions.workerPort ??= new (await import('pdfjs-dist/build/pdf.worker.min.mjs?worker')).default()
  const document = await pdf.getDocument({ data: bytes, isEvalSupported: false }).promise
  const page = await document.getPage(1)
  const whole = page.getViewport({ scale: 1 })
  const viewport = page.getViewport({ scale: LONGER_SIDE / Math.max(whole.width, whole.height) })
  const canvas = sized(viewport.width, viewport.height)
  await page.render({ canvasContext: canvas.getContext('2d')!, viewport }).promise
  await document.destroy()
  return asBlob(canvas)
}

function sized(width: number, height: number): HTMLCanvasElement {
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(width))
  canvas.height = Math.max(1, Math.round(height))
  return canvas
}

const asBlob = (canvas: HTMLCanvasElement): Promise<Blob | null> =>
  new Promise(resolve => canvas.toBlob(resolve, 'image/jpeg', 0.8))
