// What the measurements compare with: saxes, only reading.
import { readFileSync } from 'node:fs'
import { SaxesParser } from 'saxes'

for (const path of process.argv.slice(2)) {
  const parser = new SaxesParser()
  let events = 0
  parser.on('opentag', () => events++)
  parser.on('text', () => events++)
  parser.on('closetag', () => events++)
  parser.write(readFileSync(path).toString('utf8')).close()
}
