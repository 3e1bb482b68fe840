// A thread of the crew that carries the files of a big folder.
const { load } = require('./cached.js')

const { exports: program, keep } = load('program')
void program.serveCrew(keep)
