/** Letters of other alphabets, and signs, that look like one of ASCII. */
const LOOKS: Readonly<Record<string, string>> = {
  ...pairs(
    '\u0430\u0435\u043e\u0440\u0441\u0443\u0445\u0456\u0458\u0455\u0501\u051b',
    'aeopcyxijsdq',
  ),
  ...pairs('\u03bf\u03b1\u03bd\u03c1\u03b9\u03ba\u03c5', 'oavpiku'),
  ...pairs('\u2010\u2011\u2012\u2013\u2014\u2212_', '-------'),
  ...pairs('\u2018\u2019\u02bc', "'''"),
  ...pairs('01', 'ol'),
}

function pairs(letters: string, looks: string): Record<string, string> {
  return Object.fromEntries([...letters].map((letter, i) => [letter, looks.charAt(i)]))
}

/** A text with all folded that the eye overlooks: capitals, blanks, letters that look alike. */
export function alike(text: string): string {
  return looks(withoutBlanks(text.normalize('NFKC').toLowerCase()))
}

/** In what two texts differ that look alike; undefined where they differ in more, or in nothing. */
export function howTheyDiffer(one: string, other: string): string | undefined {
  if (one === other || alike(one) !== alike(other)) return undefined
  const ways = [
    { how: 'a capital', fold: (text: string) => text.toLowerCase() },
    { how: 'a blank', fold: withoutBlanks },
    { how: 'a letter that looks alike', fold: (text: string) => looks(text.normalize('NFKC')) },
  ]
  const needed = ways.filter(({ fold }) => {
    const others = ways.filter((way) => way.fold !== fold)
    const without = (text: string): string => others.reduce((now, way) => way.fold(now), text)
    return without(one) !== without(other)
  })
  return needed.map(({ how }) => how).join(' and ')
}

function withoutBlanks(text: string): string {
  return text.replace(/[\s\u00a0\u200b-\u200d\u2060\ufeff]+/g, '')
}

function looks(text: string): string {
  return [...text].map((letter) => LOOKS[letter] ?? letter).join('')
}
