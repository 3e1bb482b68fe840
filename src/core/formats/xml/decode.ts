const NAMED: Record<string, string> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" }

const REFERENCE = /&(?:#x([0-9a-fA-F]+)|#([0-9]+)|(lt|gt|amp|quot|apos));/g

/** Text with its character references and the five predefined entities resolved; no other is. */
export function decodeReferences(raw: string): string {
  if (!raw.includes('&')) return raw
  return raw.replace(REFERENCE, (whole, hex?: string, decimal?: string, name?: string) => {
    if (name !== undefined) return NAMED[name] ?? whole
    const code = hex === undefined ? Number(decimal) : parseInt(hex, 16)
    return code <= 0x10ffff ? String.fromCodePoint(code) : whole
  })
}

const CDATA = /<!\[CDATA\[([\s\S]*?)\]\]>/g

/** A run of text and CDATA sections, decoded, with line ends as XML 1.0 section 2.11 wants them. */
export function decodeText(raw: string): string {
  const text = raw.includes('\r') ? raw.replace(/\r\n?/g, '\n') : raw
  if (!text.includes('<![CDATA[')) return decodeReferences(text)
  let decoded = ''
  let at = 0
  for (const section of text.matchAll(CDATA)) {
    decoded += decodeReferences(text.slice(at, section.index)) + (section[1] ?? '')
    at = section.index + section[0].length
  }
  return decoded + decodeReferences(text.slice(at))
}

/** An attribute's value, decoded, with blanks as XML 1.0 section 3.3.3 wants them for CDATA. */
export function decodeAttribute(raw: string): string {
  return decodeReferences(/[\t\r\n]/.test(raw) ? raw.replace(/\r\n|[\t\r\n]/g, ' ') : raw)
}
