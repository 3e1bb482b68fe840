/** Adds a thing to those of a key; in place, so that many of one key take no longer than as many of several. */
export function gather<K, V>(into: Map<K, V[]>, key: K, value: V): void {
  const known = into.get(key)
  if (known === undefined) into.set(key, [value])
  else known.push(value)
}
