// A thread of the crew that carries the files of a big folder.
const { load, keep } = require('./cached.js')

void load('program').serveCrew(keep)
