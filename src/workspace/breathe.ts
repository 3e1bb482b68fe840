let lastBreath = 0

/** Lets signals in now and then: all work on files is done in one go. */
export async function breathe(): Promise<void> {
  const now = performance.now()
  if (now - lastBreath < 50) return
  await new Promise(setImmediate)
  lastBreath = performance.now()
}
