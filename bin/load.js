// The program, with its commands.
const { load, keep } = require('./cached.js')

/** Seconds after which a run has compiled much that the next ones would load in vain. */
const LONG = 2

const program = load('program')
process.once('exit', () => {
  if (process.uptime() < LONG) keep()
})
program.useScreen(() => import('../dist/settle-screen.mjs'))
module.exports = program
