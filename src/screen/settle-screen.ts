import { Box, render, Text, useInput } from 'ink'
import { createElement, useEffect, useReducer } from 'react'
import type { ReactNode } from 'react'
import type { ScreenPort } from '../core/facts/screen.ts'
import type { Paint } from '../show/paint.ts'
import { drawScreen, isTooSmall } from '../show/settle-screen/draw.ts'
import { SettleScreen } from '../show/settle-screen/screen.ts'
import type { ScreenState } from '../show/settle-screen/state.ts'
import { pressedKeys } from './pressed-keys.ts'

/** The other page of a terminal, which gives the first one back when it is left. */
const OTHER_PAGE = '\u001b[?1049h\u001b[H'
const FIRST_PAGE = '\u001b[?1049l'

/** What the screen is left with. */
export interface LeftScreen {
  state: ScreenState
  /** Whether Ctrl+C ended it. */
  isInterrupted: boolean
}

/** Shows a draft in the whole terminal until somebody leaves. @param paint as many colours as the terminal has */
export async function runSettleScreen(port: ScreenPort, paint: Paint): Promise<LeftScreen> {
  const { stdout } = process
  let redraw = (): void => undefined
  let isInterrupted = false
  const screen = await SettleScreen.open(port, () => {
    redraw()
  })
  const toFirstPage = (): void => {
    stdout.write(FIRST_PAGE)
  }
  stdout.write(OTHER_PAGE)
  // also where the run ends in another way
  process.once('exit', toFirstPage)
  const app = render(
    createElement(Whole, {
      screen,
      paint,
      onChange: (listener) => {
        redraw = listener
      },
      onInterrupt: () => {
        isInterrupted = true
      },
    }),
    { exitOnCtrlC: false, patchConsole: false },
  )
  const done = new Promise<void>((left) => {
    const inner = redraw
    redraw = () => {
      inner()
      if (screen.state.isLeft || isInterrupted) left()
    }
  })
  const off = whenWindowCloses(screen)
  redraw()
  await done
  off()
  app.unmount()
  process.off('exit', toFirstPage)
  toFirstPage()
  return { state: screen.state, isInterrupted }
}

/** Where a window is closed the run ends, as soon as the answer that is being saved is saved. */
function whenWindowCloses(screen: SettleScreen): () => void {
  const end = (): void => {
    void screen.idle().then(() => process.exit(CLOSED))
  }
  for (const signal of SIGNALS) process.on(signal, end)
  process.stdin.on('end', end)
  return () => {
    for (const signal of SIGNALS) process.off(signal, end)
    process.stdin.off('end', end)
  }
}

/** What ends a program whose window is closed, and the exit code of that by custom. */
const SIGNALS = ['SIGHUP', 'SIGTERM'] as const
const CLOSED = 129

interface WholeProps {
  screen: SettleScreen
  paint: Paint
  onChange: (listener: () => void) => void
  onInterrupt: () => void
}

/** How wide and how high the page is: one that is filled to its last line would be cleared and drawn anew each time. */
function sizeOfPage(): [width: number, height: number] {
  const { columns = 80, rows = 24 } = process.stdout
  return [columns, rows - 1]
}

/** The whole terminal, line by line. */
function Whole({ screen, paint, onChange, onInterrupt }: WholeProps): ReactNode {
  const [, redraw] = useReducer((times: number) => times + 1, 0)
  useEffect(() => {
    onChange(redraw)
    process.stdout.on('resize', redraw)
    return () => {
      process.stdout.off('resize', redraw)
    }
  }, [])
  useInput((input, key) => {
    if (key.ctrl && input === 'c') {
      onInterrupt()
      void screen.press({ sign: 'q' })
      return
    }
    const isBlind = isTooSmall(...sizeOfPage())
    for (const pressed of pressedKeys(input, key))
      if (!isBlind || ('sign' in pressed && pressed.sign === 'q')) void screen.press(pressed)
  })
  const lines = drawScreen(screen.state, paint, ...sizeOfPage())
  return createElement(
    Box,
    { flexDirection: 'column' },
    lines.map((line, at) =>
      createElement(Text, { key: at, wrap: 'truncate-end' }, line === '' ? ' ' : line),
    ),
  )
}
