/** A key that was pressed: a sign, or one with a name. */
export type ScreenKey =
  | { sign: string }
  | {
      name:
        | 'up'
        | 'down'
        | 'left'
        | 'right'
        | 'page-up'
        | 'page-down'
        | 'home'
        | 'end'
        | 'enter'
        | 'escape'
        | 'tab'
        | 'rub-out'
    }

/** What the keys do, for the help. */
export const KEY_HELP: readonly (readonly [keys: string, what: string])[] = [
  ['up, down', 'the question before, and the next one'],
  ['1 to 9', 'choose an answer; Enter gives it'],
  ['s', 'how far the answer goes: this key, all alike, all at this pattern'],
  ['u', 'take the last answer back; again, the one before that'],
  ['p', 'put the question aside: to the end of the list'],
  ['/', 'search in keys and files; Esc ends the search'],
  ['f', 'only the questions of one file, then of the next'],
  ['v', 'the whole entry, where it is longer than its place'],
  ['Tab', 'what vanilla changed and brought, and back to the questions'],
  ['right', 'among these changes: to their keys; Enter gives one a value'],
  ['Space', 'among these changes: mark them as looked at; A marks all'],
  ['k', 'give any other key of the file a value'],
  ['q', 'leave; all that was answered is saved already'],
]
