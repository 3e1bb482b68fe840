#!/usr/bin/env node
const { join } = require('node:path')

/** The oldest Node that the program runs on, as in package.json. */
const LEAST = [20, 19]

const [major, minor] = process.versions.node.split('.').map(Number)
if (major < LEAST[0] || (major === LEAST[0] && minor < LEAST[1])) {
  process.stderr.write(
    `anagnosis needs Node ${LEAST.join('.')} or newer, and this is Node ${process.versions.node}\n` +
      'install a newer one from https://nodejs.org\n',
  )
  process.exitCode = 5
} else {
  // where nothing names the shell, oclif starts PowerShell on Windows to find out, at every start
  if (process.platform === 'win32') process.env.SHELL ??= process.env.COMSPEC ?? 'cmd.exe'
  const { main } = require('./load.js')
  void main(process.argv.slice(2), join(__dirname, '..'))
}
