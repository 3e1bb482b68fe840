import type * as settleScreen from '../screen/settle-screen.ts'

type Screen = typeof settleScreen

let load: (() => Promise<Screen>) | undefined

/** Says how the full-screen part is loaded: it is a file of its own, since few runs need it. */
export function useScreen(loader: () => Promise<Screen>): void {
  load = loader
}

/** The full-screen part of the program. */
export async function screenModule(): Promise<Screen> {
  if (load === undefined) throw new Error('nobody said how the screen is loaded')
  // its packages look at these when they are loaded: one draws nothing where it takes the run for a build's
  const { CI } = process.env
  process.env.NODE_ENV ??= 'production'
  delete process.env.CI
  try {
    return await load()
  } finally {
    if (CI !== undefined) process.env.CI = CI
  }
}
