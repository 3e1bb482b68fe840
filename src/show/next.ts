/** Commands to run next, the likeliest first, under a heading. */
export function showNext(next: readonly string[], width: number): string[] {
  return next.length === 0
    ? []
    : ['', 'Next:', ...next.flatMap((command) => commandLines(command, width))]
}

/** A command over several lines where it is too long, in the way that shells read on. */
function commandLines(command: string, width: number): string[] {
  if (command.length + 2 <= width) return [`  ${command}`]
  const lines: string[] = []
  let line = ' '
  for (const part of command.split(/ (?=--)/)) {
    if (line.trim() !== '' && line.length + part.length + 3 > width) {
      lines.push(`${line} \\`)
      line = '     '
    }
    line += ` ${part}`
  }
  return [...lines, line]
}
