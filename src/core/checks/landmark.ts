import { z } from 'zod'
import { nearest } from '../keys/nearest.ts'
import { checkKind } from './check.ts'
import { common, keyPlace } from './parts.ts'
import { parsePlace } from './pattern.ts'

/** A key whose presence proves that an update is really in. */
export const landmark = checkKind({
  kind: 'landmark',
  schema: z.strictObject({ landmark: keyPlace, ...common }),
  run({ landmark: place, since }, scope, _, found) {
    if (scope.at(place).length > 0) return
    const { files, keys = '' } = parsePlace(place)
    const [file] = scope.filesAt(files)
    const of = since === undefined ? '' : ` of ${since}`
    found.finding(
      { path: file?.path ?? files, key: file === undefined ? '' : keys, at: null },
      {
        message:
          file === undefined
            ? `the landmark${of} is not there: there is no file ${files}`
            : `the landmark${of} is not there: the file has no ${keys}`,
        expected: keys,
        nearest: nearest(keys, scope.keysNear(place)),
      },
    )
  },
})
