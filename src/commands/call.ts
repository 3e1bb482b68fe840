/** A path or a name as it stands in a command that can be copied. */
export function quoted(text: string): string {
  return /[^\w./\\:@%+,=~-]/.test(text) ? `"${text}"` : text
}

/** A text that stands over several lines here, as one paragraph: help is wrapped to the terminal. */
export function paragraph(text: string): string {
  return text.replace(/\s*\n\s*/g, ' ').trim()
}
