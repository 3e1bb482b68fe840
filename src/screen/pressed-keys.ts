import type { Key } from 'ink'
import type { ScreenKey } from '../show/settle-screen/keys.ts'

/** Signs that stand for keys with a name, where several keys come at once. */
const NAMED: Readonly<Record<string, ScreenKey>> = {
  '\r': { name: 'enter' },
  '\n': { name: 'enter' },
  '\t': { name: 'tab' },
  '\u007f': { name: 'rub-out' },
  '\b': { name: 'rub-out' },
  '\u001b': { name: 'escape' },
}

/** The keys that the terminal tells of; fast ones, and what is pasted, come together. */
export function pressedKeys(input: string, key: Key): ScreenKey[] {
  const named: [is: boolean, pressed: ScreenKey][] = [
    [key.upArrow, { name: 'up' }],
    [key.downArrow, { name: 'down' }],
    [key.leftArrow, { name: 'left' }],
    [key.rightArrow, { name: 'right' }],
    [key.pageUp, { name: 'page-up' }],
    [key.pageDown, { name: 'page-down' }],
    [key.home, { name: 'home' }],
    [key.end, { name: 'end' }],
    [key.return, { name: 'enter' }],
    [key.escape, { name: 'escape' }],
    [key.tab, { name: 'tab' }],
    // some terminals send for the one what others send for the other
    [key.backspace || key.delete, { name: 'rub-out' }],
  ]
  const found = named.find(([is]) => is)
  if (found !== undefined) return [found[1]]
  if (key.ctrl || key.meta) return []
  return [...input].flatMap((sign): ScreenKey[] => {
    const known = NAMED[sign]
    if (known !== undefined) return [known]
    return sign < ' ' ? [] : [{ sign }]
  })
}
