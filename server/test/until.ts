/** Waits until something holds, and gives it back. */
export async function until<T>(holds: () => Promise<T> | T, seconds = 10): Promise<T> {
  for (let i = 0; i < seconds * 20; i++) {
    const found = await holds()
    if (found) return found
    await new Promise(resolve => setTimeout(resolve, 50))
  }
  throw new Error('waited too long')
}
