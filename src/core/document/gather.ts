/** Adds a thing to those of a key; in place, so that many of one key take no longer than as many of several. */
export function gather<K, V>(into: Map<K, V[]>, key: K, value: V): void {
  const known = into.get(key)
  if (known === undefined) into.set(key, [value])
  else known.push(value)
}

/** How often each thing occurs. */
export function timesOf<T>(things: Iterable<T>): Map<T, number> {
  const times = new Map<T, number>()
  for (const thing of things) times.set(thing, (times.get(thing) ?? 0) + 1)
  return times
}
