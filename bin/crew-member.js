// A thread of the crew that carries the files of a big folder.
const { load } = require('./cached.js')

const { exports: member, keep } = load('crew-member')
void member.serveCrew(keep)
