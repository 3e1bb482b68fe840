/** The number that a text is, written plainly; undefined for any other text. */
export function asNumber(value: string | null): number | undefined {
  return value !== null && /^-?[0-9]+(\.[0-9]+)?$/.test(value) ? Number(value) : undefined
}
