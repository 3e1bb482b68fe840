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
  return load()
}
