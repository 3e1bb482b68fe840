/** A whole number as most are written. */
const WHOLE = /^[1-9][0-9]*$/
const PARTS = /^([+-]?)([0-9]*)\.?([0-9]*)(?:[eE]([+-]?[0-9]+))?$/

/**
 * A number's exact decimal value as text: digits without outer zeros and a power of ten, so that
 * `2.40`, `2.4` and `24e-1` give the same and numbers beyond 2^53 stay apart.
 */
export function canonicalNumber(raw: string): string {
  if (WHOLE.test(raw)) {
    const significant = raw.replace(/0+$/, '')
    return `${significant}e${raw.length - significant.length}`
  }
  const parts = PARTS.exec(raw)
  if (parts === null) return raw
  const [, sign = '', whole = '', fraction = '', power = '0'] = parts
  const digits = (whole + fraction).replace(/^0+/, '')
  const significant = digits.replace(/0+$/, '')
  if (significant === '') return '0'
  const exponent =
    BigInt(power) - BigInt(fraction.length) + BigInt(digits.length - significant.length)
  return `${sign === '-' ? '-' : ''}${significant}e${exponent}`
}
