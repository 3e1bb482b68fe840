// A thread of the crew that carries the files of a big folder.
require('./load.js').serveCrew()
