import Carry from './carry.ts'
import Demo from './demo.ts'

/** The commands by the words that call them. */
export const COMMANDS = { carry: Carry, demo: Demo }
