/** Call-outs by the browser's own voice, until switched off; a new one waits for the one before, urgent ones do not. */
export function useSpeech() {
  const on = useCookie<boolean>('hypomet-voice', { default: () => true, maxAge: 365 * 86_400, sameSite: 'lax' })
  const supported = import.meta.client && 'speechSynthesis' in window
  function say(text: string, urgent = false): void {
    if (!on.value || !supported) return
    if (urgent) speechSynthesis.cancel()
    const words = new SpeechSynthesisUtterance(text)
    words.lang = 'en'
    speechSynthesis.speak(words)
  }
  return { on, say }
}
