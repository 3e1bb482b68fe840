/** Every so manieth, the first among them, so that about as many are left; all where they are fewer. */
export function sampled<T>(all: readonly T[], size: number): readonly T[] {
  if (all.length <= size) return all
  const step = Math.ceil(all.length / size)
  return all.filter((_, at) => at % step === 0)
}
