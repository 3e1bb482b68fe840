// What the measurements compare with: JSON.parse on files, or on all files of folders.
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'

for (const path of process.argv.slice(2)) {
  const names = statSync(path).isDirectory()
    ? readdirSync(path, { recursive: true, withFileTypes: true })
        .filter((each) => each.isFile())
        .map((each) => join(each.parentPath, each.name))
    : [path]
  for (const name of names) JSON.parse(readFileSync(name).toString('utf8'))
}
