// Preloaded into a measured process: writes the most memory it held, in kilobytes, when it ends.
import { writeFileSync } from 'node:fs'

process.on('exit', () => writeFileSync('peak.txt', String(process.resourceUsage().maxRSS)))
