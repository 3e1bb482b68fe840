// The program, with its commands.
const { load } = require('./cached.js')

const { exports: program, keep } = load('program')
process.once('exit', keep)
module.exports = program
