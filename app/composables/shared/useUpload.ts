import { answeredError, HypometError } from '@hypomet/core'
import { usePerson } from './usePerson'

/** Sends a file of any size, with progress and a way to stop. */
export function useUpload() {
  const person = usePerson()
  let request: XMLHttpRequest | null = null
  function send<T>(path: string, file: File, progress: (share: number) => void): Promise<T> {
    return new Promise((resolve, reject) => {
      const sending = (request = new XMLHttpRequest())
      sending.open('POST', path)
      sending.setRequestHeader('content-type', 'application/octet-stream')
      sending.setRequestHeader('x-file-name', encodeURIComponent(file.name))
      sending.setRequestHeader('x-hypomet-person', encodeURIComponent(person.value))
      sending.upload.onprogress = e => e.lengthComputable && progress(e.loaded / e.total)
      sending.onload = () => {
        const answer = JSON.parse(sending.responseText || '{}') as T & { message?: string }
        if (sending.status < 300) return resolve(answer)
        reject(answeredError(answer, 'The file was not taken.'))
      }
      sending.onerror = () => reject(new HypometError('unreachable', 'Hypomet’s server does not answer. Try again.'))
      sending.onabort = () => reject(new HypometError('cancelled', 'The import was stopped; nothing of it was kept.'))
      sending.send(file)
    })
  }
  return { send, abort: () => request?.abort() }
}
