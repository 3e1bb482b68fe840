/** A path or a name as it stands in a command that can be copied. */
export function quoted(text: string): string {
  return /[^\w./\\:@%+,=~-]/.test(text) ? `"${text}"` : text
}
