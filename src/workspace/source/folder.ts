import { createReadStream, readlinkSync } from 'node:fs'
import { modeOf, readTree } from '../tree.ts'
import type { Source } from './source.ts'

/**
 * A folder on disk. Links are taken as links; what is no file is not opened.
 *
 * @param isLeftOut whether a path, of a folder or a file, is passed over
 */
export function folderSource(path: string, isLeftOut: (path: string) => boolean): Source {
  return {
    name: path,
    packedBytes: undefined,
    async read(visit, remark) {
      for (const [name, entry] of readTree(path, isLeftOut)) {
        const { kind, location } = entry
        if (kind === 'link')
          await visit({ path: name, mode: 0, content: { kind, to: readlinkSync(location) } })
        else if (kind === 'file')
          await visit({
            path: name,
            mode: modeOf(entry),
            content: { kind, open: () => createReadStream(location) },
          })
        else if (kind === 'other') {
          const message = 'is a device, a pipe or a socket; it is not opened'
          remark({ path: name, code: 'source/not-opened', message })
        }
      }
    },
  }
}
