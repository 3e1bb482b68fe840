import type { ScreenAnswer, ScreenData, ScreenGroup, ScreenPort } from '../../core/facts/screen.ts'
import type { Question } from '../../core/grouping/questions.ts'
import { count } from '../text.ts'
import type { ScreenKey } from './keys.ts'
import type { ScreenChoice } from './scope.ts'
import { answered, answersOf, scopesOf } from './scope.ts'
import type { Preview, ScreenState, Typing } from './state.ts'
import { firstState, shownChoices, shownGroups, shownQuestions } from './state.ts'
import { closedWords, openWords } from './words.ts'

/** The screen on which a draft is settled: what it shows, and what each key does. */
export class SettleScreen {
  private waiting: ScreenKey[] = []
  /** What is being done, until it is done. */
  private work: Promise<void> | undefined
  state: ScreenState

  private constructor(
    private readonly port: ScreenPort,
    data: ScreenData,
    /** Told whenever something changed that is to be seen. */
    private readonly changed: () => void,
  ) {
    this.state = firstState(data)
  }

  /** Opens the screen where it was left. */
  static async open(port: ScreenPort, changed: () => void): Promise<SettleScreen> {
    const screen = new SettleScreen(port, await port.load(), changed)
    const place = await port.position()
    const { state } = screen
    if (place !== undefined) {
      state.aside = new Set(place.aside)
      const at = shownQuestions(state).findIndex(({ conflicts }) =>
        conflicts.some(({ id }) => id === place.at),
      )
      state.at = Math.max(0, at)
      if (place.isInGroups) state.part = 'groups'
      state.group = Math.max(
        0,
        shownGroups(state).findIndex(({ rows }) => rows === place.at),
      )
    }
    if (state.data.questions.length === 0) state.part = 'groups'
    await screen.arrive()
    return screen
  }

  /** The question at hand; undefined where none is shown. */
  get question(): Question | undefined {
    return shownQuestions(this.state)[this.state.at]
  }

  get group(): ScreenGroup | undefined {
    return shownGroups(this.state)[this.state.group]
  }

  /** Waits until nothing is at work. */
  async idle(): Promise<void> {
    this.waiting = []
    await this.work
  }

  /** Takes a key; those that come while another is at work wait for their turn. */
  async press(key: ScreenKey): Promise<void> {
    this.waiting.push(key)
    this.work ??= this.handleAll().finally(() => {
      this.work = undefined
    })
    await this.work
  }

  private async handleAll(): Promise<void> {
    for (let next = this.waiting.shift(); next !== undefined; next = this.waiting.shift()) {
      await this.handle(next)
      this.changed()
    }
  }

  private async handle(key: ScreenKey): Promise<void> {
    const { state } = this
    if (state.isLeft) return
    try {
      if (state.typing !== undefined) await this.type(key, state.typing)
      else if (state.preview !== undefined) await this.confirm(key, state.preview)
      else if ('sign' in key) await this.sign(key.sign)
      else await this.named(key.name)
    } catch (error) {
      // nothing was changed: what was to be answered is still open
      state.said = `Not done: ${error instanceof Error ? error.message : String(error)}`
      state.preview = undefined
    }
    state.busy = undefined
  }

  private async sign(sign: string): Promise<void> {
    const { state } = this
    const isList = state.part === 'questions' || state.part === 'groups'
    if (sign === 'q') {
      if (state.part === 'help' || state.part === 'entry') this.back()
      else await this.leave()
    } else if (sign === '?') state.part = state.part === 'help' ? this.listPart() : 'help'
    else if (sign === 'u') await this.undo()
    else if (sign === '/' && isList) state.typing = { what: 'search', text: '' }
    else if (sign === 'f' && isList) await this.nextFile()
    else if (sign === 'k' && this.fileAtHand() !== undefined)
      state.typing = { what: 'key', text: '' }
    else if (state.part === 'questions') await this.inQuestions(sign)
    else if (state.part === 'groups' || state.part === 'rows') await this.inGroups(sign)
  }

  private async inQuestions(sign: string): Promise<void> {
    const { state, question } = this
    if (question === undefined) return
    const choices = shownChoices(state, question)
    const number = Number(sign)
    if (sign >= '1' && sign <= '9') {
      const choice = choices[number - 1]
      if (choice === undefined) return
      state.choice = number - 1
      if (choice.take === 'value:') state.typing = { what: 'value', text: '' }
    } else if (sign === 's') {
      const scopes = scopesOf(question, state.data.questions)
      state.scope = scopes[(scopes.indexOf(state.scope) + 1) % scopes.length] ?? 'this'
    } else if (sign === 'p') {
      state.aside = new Set([...state.aside, question.example.id])
      state.said = 'Put aside: it stands at the end of the list.'
      await this.arrive()
    } else if (sign === 'v') state.part = 'entry'
    else if (sign === 'b') await this.move(-1)
  }

  private async inGroups(sign: string): Promise<void> {
    const { state, group } = this
    if (sign === 'A') {
      const rows = state.data.groups.filter((each) => !each.isLookedAt).map((each) => each.rows)
      await this.look(rows)
    } else if (sign === ' ' && group !== undefined) {
      await this.look([group.rows])
      state.part = 'groups'
    }
  }

  private async look(rows: readonly string[]): Promise<void> {
    const { state } = this
    this.busy()
    state.data = await this.port.look(rows)
    const left = state.data.groups.filter(({ isLookedAt }) => !isLookedAt).length
    state.said = `${count(rows.length, 'group')} looked at; ${left} left`
    // the next one moved up into the place of the one that was looked at
    await this.arrive()
  }

  private async named(name: Exclude<ScreenKey, { sign: string }>['name']): Promise<void> {
    const { state } = this
    switch (name) {
      case 'up':
        return this.move(-1)
      case 'down':
        return this.move(1)
      case 'page-up':
        return this.move(-10)
      case 'page-down':
        return this.move(10)
      case 'home':
        return this.move(-Infinity)
      case 'end':
        return this.move(Infinity)
      case 'tab':
        state.part = state.part === 'questions' ? 'groups' : 'questions'
        return this.arrive()
      case 'right':
        if (state.part === 'groups') await this.intoRows()
        return
      case 'left':
      case 'escape':
        this.back()
        return
      case 'enter':
        return this.enter()
      default:
        return
    }
  }

  private async enter(): Promise<void> {
    const { state, question, group } = this
    if (state.part === 'groups' && group !== undefined) await this.intoRows()
    else if (state.part === 'rows' && state.rows?.[state.row] !== undefined)
      state.typing = { what: 'row-value', text: '' }
    else if (state.part === 'questions' && question !== undefined) {
      const choice = shownChoices(state, question)[state.choice]
      if (choice === undefined) return
      if (choice.take === 'value:') state.typing = { what: 'value', text: '' }
      else await this.give(question, choice)
    } else this.back()
  }

  private async intoRows(): Promise<void> {
    const { state, group } = this
    if (group === undefined) return
    this.busy('Reading what vanilla changed…')
    state.rows = await this.port.rows(group)
    state.row = 0
    state.part = 'rows'
  }

  /** Gives an answer, as far as the scope says; of a whole pattern it is shown first what that is. */
  private async give(question: Question, choice: ScreenChoice): Promise<void> {
    const { state } = this
    const conflicts = answered(question, state.scope, state.data.questions)
    if (state.scope === 'pattern') state.preview = { choice, conflicts }
    else await this.answer(answersOf(conflicts, choice), conflicts.length)
  }

  private async confirm(key: ScreenKey, { choice, conflicts }: Preview): Promise<void> {
    const { state } = this
    if ('name' in key && key.name === 'enter') {
      state.preview = undefined
      await this.answer(answersOf(conflicts, choice), conflicts.length)
    } else if ('name' in key && key.name === 'escape') {
      state.preview = undefined
      state.said = 'Nothing was answered.'
    }
  }

  private async answer(answers: readonly ScreenAnswer[], asked: number): Promise<void> {
    const { state } = this
    this.busy()
    const { data, closed } = await this.port.answer(answers)
    state.data = data
    const [first] = closed
    const is = first === undefined ? '' : `: ${closedWords(first)}`
    const rest = asked - answers.length
    const left = rest > 0 ? `; ${rest} left open, for which there is no such value` : ''
    state.said = `Closed ${count(closed.length, 'key')}${is}${left}. ${openWords(data)}`
    if (data.questions.length === 0 && state.part === 'questions') state.part = 'groups'
    await this.arrive()
  }

  private async undo(): Promise<void> {
    const { state } = this
    this.busy()
    const { data, keys } = await this.port.undo()
    state.data = data
    state.said =
      keys === 0
        ? 'There is no answer of this sitting to take back.'
        : `Taken back: ${count(keys, 'key')} as before. ${openWords(data)}`
    if (keys > 0 && data.questions.length > 0) state.part = 'questions'
    await this.arrive()
  }

  private async type(key: ScreenKey, typing: Typing): Promise<void> {
    const { state } = this
    if ('sign' in key) typing.text += key.sign
    else if (key.name === 'rub-out') typing.text = [...typing.text].slice(0, -1).join('')
    else if (key.name === 'escape') {
      state.typing = undefined
      if (typing.what === 'search') await this.find('')
    } else if (key.name === 'enter') {
      state.typing = undefined
      await this.typed(typing)
    }
    if (state.typing?.what === 'search') await this.find(typing.text)
  }

  private async typed({ what, text, key = '' }: Typing): Promise<void> {
    const { state, question } = this
    const row = state.rows?.[state.row]
    const path = this.fileAtHand() ?? ''
    if (what === 'search') await this.find(text)
    else if (what === 'value' && question !== undefined)
      await this.give(question, { take: `value:${text}`, value: text, why: 'typed in' })
    else if (what === 'row-value' && row !== undefined) {
      await this.answer([{ path: row.path, key: row.key, take: `value:${text}` }], 1)
      state.rows = state.rows?.map((each) => (each === row ? { ...each, result: text } : each))
      state.part = 'rows'
    } else if (what === 'key' && text !== '')
      state.typing = { what: 'key-value', text: '', key: text }
    else if (what === 'key-value') await this.answer([{ path, key, take: `value:${text}` }], 1)
  }

  private async find(text: string): Promise<void> {
    this.state.search = text
    this.state.at = 0
    this.state.group = 0
    await this.arrive()
  }

  /** Shows the questions of one file after the other, then those of all again. */
  private async nextFile(): Promise<void> {
    const { state } = this
    const of = state.part === 'groups' ? state.data.groups : undefined
    const files = [
      ...new Set(of?.map(({ path }) => path) ?? state.data.questions.flatMap(({ paths }) => paths)),
    ].sort()
    state.file = files[state.file === undefined ? 0 : files.indexOf(state.file) + 1]
    state.at = 0
    state.group = 0
    state.said = state.file === undefined ? 'All files.' : `Only ${state.file}.`
    await this.arrive()
  }

  private fileAtHand(): string | undefined {
    const { state, question, group } = this
    if (state.part === 'questions') return question?.paths[0]
    return state.part === 'rows' ? state.rows?.[state.row]?.path : group?.path
  }

  private async move(by: number): Promise<void> {
    const { state } = this
    const within = (at: number, length: number): number =>
      Math.max(0, Math.min(length - 1, at + Math.max(-length, Math.min(length, by))))
    if (state.part === 'rows') state.row = within(state.row, state.rows?.length ?? 0)
    else if (state.part === 'groups') state.group = within(state.group, shownGroups(state).length)
    else state.at = within(state.at, shownQuestions(state).length)
    if (state.part !== 'rows') await this.arrive()
  }

  private back(): void {
    const { state } = this
    if (state.part === 'rows') state.part = 'groups'
    else if (state.part === 'help' || state.part === 'entry') state.part = this.listPart()
  }

  private listPart(): 'questions' | 'groups' {
    return this.state.data.questions.length > 0 ? 'questions' : 'groups'
  }

  /** Shows what belongs to the question or the group at hand, and remembers where that is. */
  private async arrive(): Promise<void> {
    const { state } = this
    state.at = Math.max(0, Math.min(state.at, shownQuestions(state).length - 1))
    state.group = Math.max(0, Math.min(state.group, shownGroups(state).length - 1))
    state.choice = 0
    state.detail = undefined
    const { question, group } = this
    if (state.part === 'questions' && question !== undefined) {
      state.scope = scopesOf(question, state.data.questions)[0] ?? 'this'
      state.detail = await this.port.detail(question)
    }
    const isInGroups = state.part === 'groups' || state.part === 'rows'
    const at = isInGroups ? (group?.rows ?? '') : (question?.example.id ?? '')
    await this.port.remember({ at, isInGroups, aside: [...state.aside] })
  }

  private busy(what = 'Saving…'): void {
    this.state.busy = what
    this.changed()
  }

  private leave(): Promise<void> {
    this.state.isLeft = true
    return Promise.resolve()
  }
}
